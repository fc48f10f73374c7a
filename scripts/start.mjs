/** Starts Uncia with everything it needs; Ctrl-C ends what this started. */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { freePort, startCluster } from './lib/cluster.mjs';
import { build, fillDemo, installPackages, project } from './lib/project.mjs';
import { giveUp, say } from './lib/say.mjs';

const unknown = process.argv.slice(2).filter((word) => word !== '--empty');
if (unknown.length)
  giveUp(
    `"${unknown[0]}" is not known here. npm start takes --empty (a school with no demo), or nothing.`,
  );
const empty = process.argv.includes('--empty');

await installPackages();
await build();

/** @param {number} port @returns {Promise<boolean>} */
const isFree = (port) =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

const wanted = Number(process.env.PORT ?? 5180);
if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65535)
  giveUp(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
const port = (await isFree(wanted)) ? wanted : await freePort();
if (port !== wanted) say(`Port ${wanted} is taken, so Uncia uses ${port}.`);

const cluster = process.env.DATABASE_URL ? null : await startCluster(empty ? 'empty' : 'cluster');
const database = process.env.DATABASE_URL ?? cluster?.url(cluster.database) ?? '';
if (!empty) await fillDemo(database);
const address = `http://127.0.0.1:${port}`;
/** Stand-ins for what is outside, unless a setting names the real thing. Uncia goes on when one of them is away. */
const outside = /** @type {Record<string, string>} */ ({});
/** @type {import('node:child_process').ChildProcess[]} */
const standIns = [];
/** @param {string} name @param {number} port @param {Record<string, string>} settings */
function standIn(name, port, settings) {
  const env = { ...process.env, ...settings, PORT: String(port) };
  const serve = ['--import', 'tsx', `standins/${name}/serve.ts`];
  standIns.push(
    spawn(process.execPath, serve, { cwd: project, stdio: 'inherit', detached: true, env }),
  );
}
if (!empty && !process.env.OFFICE_URL) {
  const port = await freePort();
  const client = {
    OFFICE_CLIENT_ID: 'uncia',
    OFFICE_CLIENT_SECRET: randomBytes(24).toString('base64url'),
  };
  Object.assign(outside, { OFFICE_URL: `http://127.0.0.1:${port}/`, ...client });
  standIn('office', port, client);
}
if (!empty && !process.env.MAIL_URL) {
  const port = await freePort();
  outside.MAIL_URL = `smtp://127.0.0.1:${port}`;
  standIn('mail', port, { MAIL_FOLDER: join(project, '.uncia', 'mail') });
}

/** The same at each start: what was linked to once is still there. */
const DOCUMENTS_PORT = 5187;
if (!empty && !process.env.DOCUMENTS_URL) {
  const port = (await isFree(DOCUMENTS_PORT)) ? DOCUMENTS_PORT : await freePort();
  outside.DOCUMENTS_URL = `http://127.0.0.1:${port}/`;
  standIn('documents', port, {});
}

/** @type {import('node:child_process').ChildProcess | null} */
let server = null;
let stopping = false;
/** Ends that came soon after a start, in a row. */
let quickEnds = 0;
const QUICK = 30_000;
const MOST_QUICK_ENDS = 6;

function serve() {
  const began = Date.now();
  server = spawn(process.execPath, ['build/index.js'], {
    cwd: project,
    stdio: 'inherit',
    detached: true,
    env: {
      LOG_LEVEL: 'warn',
      ...process.env,
      NODE_ENV: 'production',
      HOST: process.env.HOST ?? '127.0.0.1',
      PORT: String(port),
      ORIGIN: process.env.ORIGIN ?? address,
      BODY_SIZE_LIMIT: '12M',
      SHUTDOWN_TIMEOUT: '10',
      DATABASE_URL: database,
      ...outside,
      UNCIA_FIRST: empty ? 'administrator' : 'nothing',
    },
  });
  server.on('exit', (code) => {
    quickEnds = Date.now() - began < QUICK ? quickEnds + 1 : 0;
    if (stopping || quickEnds >= MOST_QUICK_ENDS) return end(stopping ? 0 : (code ?? 1));
    const wait = 500 * 2 ** quickEnds;
    say(
      `The server ended by itself; it starts again in ${wait / 1000} s. Nothing that was saved is lost.`,
    );
    setTimeout(() => (stopping ? end(0) : serve()), wait);
  });
}
serve();

/** @param {number} code */
function end(code) {
  for (const one of standIns) one.kill('SIGTERM');
  cluster?.stop();
  process.exit(code);
}
function stop() {
  if (stopping) return;
  stopping = true;
  say('\nStopping …');
  if (server?.exitCode === null && server.signalCode === null) server.kill('SIGTERM');
  else end(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);

async function announce() {
  while (!stopping) {
    const answer = await fetch(`${address}/health`).catch(() => null);
    if (answer?.ok) break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  if (stopping) return;
  say(`\nUncia is at ${address}`);
  if (!empty)
    say(
      'In the demo, sign in as tamsin.orrey (teacher) or ada.fennick (student); everybody\'s password is "skerry-point".',
    );
  say('Ctrl-C stops it; everything is kept.\n');
}
await announce();
