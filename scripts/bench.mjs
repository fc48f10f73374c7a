/** Prints one JSON line a figure. `--quick` gives the main figures in under 45 s. */
import { browsers } from './lib/debian.mjs';
import { startCluster } from './lib/cluster.mjs';
import { build, installPackages, run } from './lib/project.mjs';

await installPackages();
await build();
// Durable, as in earnest: fsync stays on.
const cluster = await startCluster('bench', { max_connections: '200' });
const env = { ...process.env, BENCH_SERVER_URL: cluster.url('postgres'), ...browsers() };
const figures = ['scripts/bench/figures.ts', ...process.argv.slice(2)];
const status = await run(process.execPath, ['--import', 'tsx', ...figures], { env });
cluster.stop();
process.exit(status);
