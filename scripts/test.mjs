/** Everything `npm test` needs, then all suites, then one line `N passed, N failed`. */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { chromium } from './lib/debian.mjs';
import { build, installPackages, project, run } from './lib/project.mjs';
import { say } from './lib/say.mjs';

installPackages();
const browser = chromium();
const cluster = await startCluster('tests', { fsync: 'off', max_connections: '200' });
const report = join(project, '.uncia', 'tests.json');
mkdirSync(join(project, '.uncia'), { recursive: true });
rmSync(report, { force: true });
/** @type {number} */
let status;
try {
  build();
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${report}`];
  const env = { ...process.env, TEST_SERVER_URL: cluster.url('postgres'), CHROMIUM: browser };
  status = run('npx', ['vitest', 'run', ...reporters, ...process.argv.slice(2)], env);
} finally {
  cluster.stop();
}
const result = existsSync(report) ? JSON.parse(readFileSync(report, 'utf8')) : {};
const passed = result.numPassedTests ?? 0;
// A suite that could not even be loaded has no test of its own to count.
const unloaded = (result.testResults ?? []).filter(
  (/** @type {{ status: string, assertionResults: unknown[] }} */ suite) =>
    suite.status === 'failed' && suite.assertionResults.length === 0,
).length;
const failed = (result.numFailedTests ?? 0) + unloaded || (status === 0 ? 0 : 1);
say(`${passed} passed, ${failed} failed`);
process.exit(status === 0 && failed === 0 ? 0 : 1);
