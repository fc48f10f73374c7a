import { error, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { building } from '$app/environment';
import { SESSION_COOKIE } from '$server/access/session';
import { startApp, type App } from '$server/app';
import { log, logUnexpected } from '$server/log';
import { hasPeople, makeSetUpLink } from '$server/school/first';
import { readSettings } from '$server/settings';

let app: App;

async function begin({ db, settings }: App) {
  if (settings.UNCIA_FIRST === 'nothing' || (await hasPeople(db))) return;
  if (settings.UNCIA_FIRST === 'demo') {
    const { loadDemo } = await import('$demo/load');
    await loadDemo(app, Date.now());
    await app.indexer.catchUp();
    return;
  }
  const token = await makeSetUpLink(db, Intl.DateTimeFormat().resolvedOptions().timeZone);
  process.stdout.write(
    `\nThe school is empty. Its first administrator uses this link, once:\n${settings.ORIGIN}/welcome/${token}\n`,
  );
}

export const init: ServerInit = async () => {
  if (building) return;
  try {
    app = await startApp(readSettings(process.env));
    await begin(app);
  } catch (thrown) {
    log.fatal({ err: thrown }, thrown instanceof Error ? thrown.message : 'Uncia could not start');
    process.exit(1);
  }
  // Streams never end by themselves; once they have, the server lets running requests end and closes.
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => void app.news.close());
  // Everything is closed then: a library that still waits for an answer does not keep the process.
  process.once('sveltekit:shutdown', () => void app.close().finally(() => process.exit()));
};

const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
};

/** A zero character in an address is nobody's doing but an attacker's. */
function checkAddress({ pathname, search }: URL) {
  if (/%00|\0/.test(pathname + search)) error(400, 'This address holds a character that is none.');
}

export const handle: Handle = async ({ event, resolve }) => {
  const began = performance.now();
  event.locals.app = app;
  checkAddress(event.url);
  const token = event.cookies.get(SESSION_COOKIE);
  event.locals.person = token ? await app.whoIs({ token, now: Date.now() }) : null;
  const response = await resolve(event, {
    preload: ({ type }) => type === 'js' || type === 'css' || type === 'font',
  });
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  const ms = Math.round((performance.now() - began) * 10) / 10;
  response.headers.set('server-timing', `app;dur=${ms}`);
  log.info({ method: event.request.method, route: event.route.id, status: response.status, ms });
  return response;
};

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (status === 404) return { message: 'There is no such page here.' };
  if (status < 500) return { message };
  const number = logUnexpected(error, { route: event.route.id, method: event.request.method });
  return {
    message: `Something went wrong on our side (number ${number}). What you wrote is kept; please try again.`,
  };
};
