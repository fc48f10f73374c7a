/** One current picture of each main view, from the demo: docs/screenshots/*.png. */
import { chromium } from './lib/debian.mjs';
import { startCluster } from './lib/cluster.mjs';
import { build, installPackages, run } from './lib/project.mjs';

installPackages();
build();
const cluster = await startCluster('tests', { fsync: 'off', max_connections: '200' });
const env = { ...process.env, CHROMIUM: chromium(), TEST_SERVER_URL: cluster.url('postgres') };
const status = run('npx', ['tsx', 'scripts/take-shots.ts'], env);
cluster.stop();
process.exit(status);
