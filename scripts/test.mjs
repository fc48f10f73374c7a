/**
 * Everything `npm test` needs, then all tests, then one line `N passed, N failed, N skipped`.
 * `npm test -- core` (or `runner`, `server`, `interface`) runs those alone, and other words the files that have them in their path.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { clockFrom } from './lib/clock.mjs';
import { startCluster } from './lib/cluster.mjs';
import { browsers } from './lib/debian.mjs';
import { build, endAll, installPackages, project } from './lib/project.mjs';
import { runSuite } from './lib/run-suite.mjs';
import { giveUp, say } from './lib/say.mjs';

/** A run that takes longer than this, in minutes, stands still somewhere. */
const LONGEST = 45;
/** So many runs before this one are kept. */
const KEPT = 5;

const plain = ['core', 'runner'];
const suites = [...plain, 'server', 'interface'];
const words = process.argv.slice(2);
const chosen = suites.filter((suite) => words.includes(suite));
const args = [
  ...words.filter((word) => !suites.includes(word)),
  ...chosen.map((suite) => `--project=${suite}`),
];

const runs = join(project, '.uncia', 'runs');
mkdirSync(runs, { recursive: true });
const lock = join(project, '.uncia', 'tests.pid');
const other = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0;
const commandOf = (/** @type {number} */ pid) =>
  spawnSync('ps', ['-o', 'args=', '-p', String(pid)], { encoding: 'utf8' }).stdout ?? '';
if (other && commandOf(other).includes('test.mjs'))
  giveUp(`The tests run here already, as process ${other}.`);
writeFileSync(lock, String(process.pid));
process.once('exit', () => rmSync(lock, { force: true }));
for (const old of readdirSync(runs).sort().slice(0, -KEPT))
  rmSync(join(runs, old), { recursive: true, force: true });

/** @param {string} why */
async function endEarly(why) {
  say(`\n${why}`);
  await endAll();
  process.exit(1);
}
const tooLong = `The tests have run for ${LONGEST} minutes and are ended: something stands still.`;
setTimeout(() => endEarly(tooLong), LONGEST * 60_000).unref();
// A signal may end npm alone, which does not pass it on.
const parent = process.ppid;
setInterval(() => process.ppid !== parent && endEarly('Nobody waits for the tests.'), 1000).unref();

await installPackages();
const folder = join(runs, new Date().toISOString().slice(0, 19).replaceAll(':', '.'));
const needsServer = chosen.length === 0 || !chosen.every((suite) => plain.includes(suite));
/** @type {NodeJS.ProcessEnv} */
const env = { ...process.env };
if (needsServer) {
  const clock = clockFrom(process.env.TEST_DAY);
  Object.assign(env, browsers(), clock);
  await build();
  const settings = { fsync: 'off', full_page_writes: 'off', max_connections: '200' };
  const cluster = await startCluster('tests', settings, { fresh: true, env: clock });
  env.TEST_SERVER_URL = cluster.url('postgres');
}
process.exit(await runSuite(args, { env, folder }));
