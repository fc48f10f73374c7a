/** One current picture of each main view, from the demo: docs/screenshots/*.png. */
import { browsers } from './lib/debian.mjs';
import { startCluster } from './lib/cluster.mjs';
import { build, installPackages, run } from './lib/project.mjs';

await installPackages();
await build();
const cluster = await startCluster('shots', { fsync: 'off', max_connections: '200' });
const env = { ...process.env, ...browsers(), TEST_SERVER_URL: cluster.url('postgres') };
const status = await run(process.execPath, ['--import', 'tsx', 'scripts/take-shots.ts'], { env });
cluster.stop();
process.exit(status);
