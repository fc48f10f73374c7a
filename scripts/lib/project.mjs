/** The checkout, its packages and its build: made when missing, made again when their sources changed. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { giveUp, say } from './say.mjs';

export const project = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

const stamps = join(project, '.uncia', 'stamps');

/** @param {string} program @param {string[]} args @param {NodeJS.ProcessEnv} [env] @returns {number} exit status */
export function run(program, args, env = process.env) {
  return spawnSync(program, args, { cwd: project, stdio: 'inherit', env }).status ?? 1;
}

/** @param {string} path @returns {string[]} */
function filesBelow(path) {
  if (!existsSync(path)) return [];
  if (statSync(path).isFile()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => filesBelow(join(path, name)));
}

/** @param {string[]} paths */
function contentsOf(paths) {
  const hash = createHash('sha256');
  for (const file of paths.flatMap((path) => filesBelow(join(project, path))))
    hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

/** Does the work unless it was done for these very contents.
 * @param {string} name @param {string[]} sources @param {string} result @param {() => void} work */
function once(name, sources, result, work) {
  const stamp = join(stamps, name);
  const wanted = contentsOf(sources);
  const made = existsSync(stamp) && existsSync(join(project, result));
  if (made && readFileSync(stamp, 'utf8') === wanted) return;
  work();
  mkdirSync(stamps, { recursive: true });
  writeFileSync(stamp, wanted);
}

export function installPackages() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    giveUp(`Uncia needs Node.js 20.19 or later; this is ${process.versions.node}.`);
  once('packages', ['package-lock.json'], 'node_modules', () => {
    say('Installing packages …');
    if (run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund', '--loglevel=error']) !== 0)
      giveUp('The packages could not be installed. Please look at the lines above.');
    run('npx', ['svelte-kit', 'sync']);
  });
}

export function build() {
  const sources = [
    'src',
    'static',
    'package-lock.json',
    'svelte.config.js',
    'vite.config.ts',
    'vite.workers.config.ts',
  ];
  once('build', sources, 'build/index.js', () => {
    say('Building …');
    const built = [[], ['--config', 'vite.workers.config.ts']].every(
      (which) => run('npx', ['vite', 'build', '--logLevel', 'error', ...which]) === 0,
    );
    if (!built) giveUp('The application could not be built. Please look at the lines above.');
  });
}

/** Fills an empty database with the demo school. @param {string} url of the database */
export function fillDemo(url) {
  const settings = { DATABASE_URL: url, LOG_LEVEL: 'warn' };
  const env = { ...process.env, ...settings };
  if (run(process.execPath, ['--import', 'tsx', 'demo/fill.ts'], env) !== 0)
    giveUp('The demo could not be made. Please look at the lines above.');
}
