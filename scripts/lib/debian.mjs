/** What Uncia needs from Debian, found or installed. */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, say } from './say.mjs';

const isRoot = process.getuid?.() === 0;

/** @param {string} program */
function onPath(program) {
  const found = spawnSync('sh', ['-c', `command -v ${program}`], { encoding: 'utf8' });
  return found.status === 0 ? found.stdout.trim() : null;
}

/** @param {string} name a Debian package */
function install(name) {
  const command = `apt-get update && apt-get install -y ${name}`;
  const prefix = isRoot ? [] : onPath('sudo') ? ['sudo', '-n'] : null;
  if (!onPath('apt-get') || !prefix)
    giveUp(`Uncia needs ${name}. Please install it (on Debian: ${command}) and start again.`);
  say(`Installing ${name} …`);
  const shell = [...prefix, 'sh', '-c', `export DEBIAN_FRONTEND=noninteractive; ${command}`];
  const done = spawnSync(shell[0] ?? 'sh', shell.slice(1), { stdio: ['ignore', 'ignore', 'pipe'] });
  if (done.status !== 0)
    giveUp(`Uncia needs ${name} and could not install it. Please run, as root: ${command}`);
}

function findPostgres() {
  const debian = '/usr/lib/postgresql';
  const versions = existsSync(debian) ? readdirSync(debian) : [];
  const folders = versions
    .sort((a, b) => Number(b) - Number(a))
    .map((version) => join(debian, version, 'bin'));
  if (onPath('pg_config'))
    folders.push(execFileSync('pg_config', ['--bindir'], { encoding: 'utf8' }).trim());
  return folders.find((folder) => existsSync(join(folder, 'initdb')));
}

/** @returns {string} the folder that holds initdb and pg_ctl */
export function postgresPrograms() {
  if (!findPostgres()) install('postgresql');
  return findPostgres() ?? giveUp('PostgreSQL was installed, but its initdb was not found.');
}

/**
 * @param {string} program
 * @param {string} [set] a path in the environment that goes before what Debian has
 * @returns {string} its path
 */
function browser(program, set) {
  const find = () => set ?? onPath(program);
  if (!find()) install(program);
  return find() ?? giveUp(`${program} was installed, but was not found on the PATH.`);
}

/**
 * @returns {Record<'CHROMIUM' | 'CHROMIUM_SHELL', string>} the paths of the browser as people have it, and of the one that
 *   draws no window at all, which starts and signs in twice as fast
 */
export const browsers = () => ({
  CHROMIUM: browser('chromium', process.env.CHROMIUM),
  CHROMIUM_SHELL: browser('chromium-headless-shell', process.env.CHROMIUM_SHELL),
});

/** @returns {string} the path of the library that gives a program another clock */
export function faketimeLibrary() {
  const find = () =>
    readdirSync('/usr/lib', { withFileTypes: true })
      .filter((one) => one.isDirectory())
      .map(({ name }) => join('/usr/lib', name, 'faketime', 'libfaketime.so.1'))
      .find((path) => existsSync(path));
  if (!find()) install('libfaketime');
  return find() ?? giveUp('libfaketime was installed, but was not found below /usr/lib.');
}
