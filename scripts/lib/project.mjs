/** The checkout, its packages and its build: made when missing, made again when their sources changed. */
import { spawn } from 'node:child_process';
import { once as onceEmitted } from 'node:events';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { giveUp, say } from './say.mjs';

export const project = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

const stamps = join(project, '.uncia', 'stamps');

/** What runs now, each with all that it started. @type {Set<import('node:child_process').ChildProcess>} */
const running = new Set();
/** What was begun ends within this, in milliseconds, or is ended. */
const GRACE = 8000;
/** What runs is being ended, and nothing goes on after it. */
let isEnding = false;

/** Ends all that runs, with what it started in turn. */
export async function endAll() {
  isEnding = true;
  const ending = [...running];
  const kill = (/** @type {NodeJS.Signals} */ signal) => {
    for (const { pid } of ending)
      try {
        if (pid) process.kill(-pid, signal);
      } catch {
        // It has ended by itself.
      }
  };
  kill('SIGTERM');
  const ended = Promise.all(
    ending.map((child) => running.has(child) && onceEmitted(child, 'close')),
  );
  await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, GRACE))]);
  kill('SIGKILL');
}

/** Whoever ends this program while something runs ends that, too. */
async function endedFromOutside() {
  await endAll();
  process.exit(1);
}
const SIGNALS = /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP']);

/**
 * @param {string} program @param {string[]} args
 * @param {{ env?: NodeJS.ProcessEnv, quiet?: boolean }} [how] `quiet`: what it prints is shown only when it fails
 * @returns {Promise<number>} exit status; never of what was ended by `endAll`
 */
export async function run(program, args, { env = process.env, quiet = false } = {}) {
  if (running.size === 0) for (const signal of SIGNALS) process.on(signal, endedFromOutside);
  const out = quiet ? 'pipe' : 'inherit';
  // A process group of its own, so that all of it can be ended.
  const child = spawn(program, args, {
    cwd: project,
    stdio: ['ignore', out, out],
    detached: true,
    env,
  });
  running.add(child);
  let printed = '';
  for (const stream of [child.stdout, child.stderr])
    stream?.on('data', (data) => (printed += String(data)));
  /** @type {number} */
  const status = await new Promise((resolve) => {
    child.on('error', () => resolve(1));
    child.on('close', (code) => resolve(code ?? 1));
  });
  running.delete(child);
  if (isEnding) return new Promise(() => {});
  if (running.size === 0) for (const signal of SIGNALS) process.off(signal, endedFromOutside);
  if (status !== 0) process.stdout.write(printed);
  return status;
}

/** @param {string} script below node_modules @param {string[]} args @param {Parameters<typeof run>[2]} [how] */
export const runPackage = (script, args, how) =>
  run(process.execPath, [join('node_modules', script), ...args], how);

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
 * @param {string} name @param {string[]} sources @param {string} result @param {() => Promise<void>} work */
async function once(name, sources, result, work) {
  const stamp = join(stamps, name);
  const wanted = contentsOf(sources);
  const made = existsSync(stamp) && existsSync(join(project, result));
  if (made && readFileSync(stamp, 'utf8') === wanted) return;
  await work();
  mkdirSync(stamps, { recursive: true });
  writeFileSync(stamp, wanted);
}

export async function installPackages() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    giveUp(`Uncia needs Node.js 20.19 or later; this is ${process.versions.node}.`);
  await once('packages', ['package-lock.json'], 'node_modules', async () => {
    say('Installing packages, about a minute …');
    const quietly = ['--no-audit', '--no-fund', '--loglevel=error'];
    if ((await run('npm', ['ci', '--include=dev', ...quietly], { quiet: true })) !== 0)
      giveUp('The packages could not be installed. Please look at the lines above.');
    await runPackage('@sveltejs/kit/svelte-kit.js', ['sync'], { quiet: true });
  });
}

export async function build() {
  const sources = [
    'src',
    'static',
    'package-lock.json',
    'svelte.config.js',
    'vite.aliases.js',
    'vite.config.ts',
    'vite.workers.config.ts',
  ];
  await once('build', sources, 'build/index.js', async () => {
    say('Building, about a minute …');
    for (const config of ['vite.config.ts', 'vite.workers.config.ts']) {
      const how = ['build', '--logLevel', 'error', '--config', config];
      if ((await runPackage('vite/bin/vite.js', how, { quiet: true })) !== 0)
        giveUp('The application could not be built. Please look at the lines above.');
    }
  });
}

/** Fills an empty database with the demo school. @param {string} url of the database */
export async function fillDemo(url) {
  const env = { ...process.env, DATABASE_URL: url, LOG_LEVEL: 'warn' };
  if ((await run(process.execPath, ['--import', 'tsx', 'demo/fill.ts'], { env })) !== 0)
    giveUp('The demo could not be made. Please look at the lines above.');
}
