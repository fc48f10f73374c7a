/** Runs the tests, those of a failed file once more, alone, and says what came of it. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { failuresOf, judgeRun, MOST_UNSTEADY } from './judge-run.mjs';
import { project, runPackage } from './project.mjs';
import { say } from './say.mjs';

/** More files than this are not run again: what fails so often is no chance. */
const MOST_AGAIN = 5;

/** What failed by chance on this machine, whichever checkout it was in. */
const CHANCES = join(
  process.env.XDG_STATE_HOME ?? join(homedir(), '.local', 'state'),
  'uncia',
  'unsteady.json',
);

/**
 * @param {string[]} args of vitest
 * @param {{ env: NodeJS.ProcessEnv, folder: string, chances?: string }} how `folder`: where its report goes, and what
 *   was seen of tests that failed; `chances`: the file of what failed by chance before
 * @returns {Promise<number>} exit status
 */
export async function runSuite(args, { env, folder, chances = CHANCES }) {
  mkdirSync(folder, { recursive: true });
  /** @param {string} report @param {string[]} which */
  const vitest = async (report, which) => {
    const path = join(folder, report);
    const seen = { TESTS_SEEN: join(folder, report.replace('.json', '')) };
    const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${path}`];
    const status = await runPackage('vitest/vitest.mjs', ['run', ...reporters, ...which], {
      env: { ...env, ...seen },
    });
    /** @type {import('./judge-run.mjs').File[]} */
    const files = existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')).testResults : [];
    // A test has the same name in every checkout.
    for (const file of files) file.name = relative(project, file.name);
    return { status, files };
  };
  const first = await vitest('tests.json', args);
  const failed = first.files.filter((file) => failuresOf(file).length > 0);
  const again = new Map();
  if (failed.length <= MOST_AGAIN)
    for (const [n, { name }] of failed.entries()) {
      say(`\nOnce more, alone: ${name}`);
      const options = args.filter((arg) => arg.startsWith('--'));
      const { files } = await vitest(`again-${n + 1}.json`, [...options, name]);
      const file = files.find((one) => one.name === name);
      if (file) again.set(name, file);
    }
  const past = existsSync(chances) ? JSON.parse(readFileSync(chances, 'utf8')) : [];
  const now = Date.now();
  const verdict = judgeRun(first.files, again, past, now);
  const chanced = verdict.unsteady.flatMap(({ tests }) => tests.map((test) => ({ test, at: now })));
  if (chanced.length) {
    mkdirSync(dirname(chances), { recursive: true });
    writeFileSync(chances, JSON.stringify([...past, ...chanced]));
  }
  say('');
  for (const { file, tests } of verdict.unsteady)
    say(`unsteady, failed and then passed alone: ${file}\n  ${tests.join('\n  ')}`);
  if (verdict.unsteady.length > MOST_UNSTEADY)
    say(`More than ${MOST_UNSTEADY} files were unsteady, so this run is red.`);
  for (const test of verdict.twice)
    say(`failed by chance for the second time within a week, which hides a fault: ${test}`);
  for (const test of verdict.red) say(`failed: ${test}`);
  if (failed.length) say(`What was seen of them is in ${relative(project, folder)}`);
  // Nothing failed, and yet it did not end well: an error outside of every test, or no test at all.
  const outside = failed.length === 0 && first.status !== 0;
  if (outside) say('An error came from outside of every test; see above.');
  const red = verdict.failed || (verdict.isGreen && !outside ? 0 : 1);
  say(`${verdict.passed} passed, ${red} failed, ${verdict.skipped} skipped`);
  return red ? 1 : 0;
}
