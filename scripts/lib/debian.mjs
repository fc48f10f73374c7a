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

/** @returns {string} the path of the browser that the interface tests drive */
export function chromium() {
  const find = () => process.env.CHROMIUM ?? onPath('chromium');
  if (!find()) install('chromium');
  return find() ?? giveUp('Chromium was installed, but was not found on the PATH.');
}
