/** Prints one JSON line a figure. `--quick` gives the main figures in under 45 s. */
import { chromium } from './lib/debian.mjs';
import { startCluster } from './lib/cluster.mjs';
import { build, installPackages, run } from './lib/project.mjs';

installPackages();
build();
// Durable, as in earnest: fsync stays on.
const cluster = await startCluster('bench', { max_connections: '200' });
const env = { ...process.env, BENCH_SERVER_URL: cluster.url('postgres'), CHROMIUM: chromium() };
const status = run('npx', ['tsx', 'scripts/bench/figures.ts', ...process.argv.slice(2)], env);
cluster.stop();
process.exit(status);
