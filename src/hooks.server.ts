import { error, type Handle, type HandleServerError, type ServerInit } from '@sveltejs/kit';
import { building } from '$app/environment';
import { SESSION_COOKIE } from '$server/access/session';
import { startApp, type App } from '$server/app';
import { compressed } from '$server/http/compressed';
import { passGate } from '$server/http/gate';
import { log, logUnexpected, newNumber } from '$server/log';
import { Refusal } from '$server/page/refusal';
import { hasPeople, makeSetUpLink } from '$server/school/first';
import { readSettings } from '$server/settings';

let app: App;

async function begin({ db, settings }: App) {
  if (settings.UNCIA_FIRST === 'nothing' || (await hasPeople(db))) return;
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

/** Whether an address can be read at all (RFC 3986, 2.1; UTF-8). */
function isReadable(path: string): boolean {
  try {
    // What comes of it is used: a build leaves out a call whose answer is not.
    return decodeURI(path) !== '';
  } catch {
    return false;
  }
}

export const handle: Handle = async ({ event, resolve }) => {
  // SvelteKit asks for these, too, and nobody would catch what is thrown then: it would end the process.
  if (!isReadable(event.url.pathname))
    return new Response('This address cannot be read.', { status: 400 });
  const began = performance.now();
  event.locals.app = app;
  event.locals.number = newNumber();
  const token = event.cookies.get(SESSION_COOKIE);
  event.locals.person = token ? await app.whoIs({ token, now: Date.now() }) : null;
  try {
    passGate({ request: event.request, url: event.url, person: event.locals.person });
  } catch (thrown) {
    if (thrown instanceof Refusal) error(thrown.status, thrown.message);
    throw thrown;
  }
  const response = await resolve(event, {
    // Of the fonts the one that every view has; a page's own comes with the page.
    preload: ({ type, path }) =>
      type === 'js' || type === 'css' || path.includes('next-latin-wght-normal'),
  });
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'no-store');
  const ms = Math.round((performance.now() - began) * 10) / 10;
  response.headers.set('server-timing', `app;dur=${ms}`);
  const { number } = event.locals;
  response.headers.set('x-request-number', number);
  log.info({
    number,
    method: event.request.method,
    route: event.route.id,
    status: response.status,
    ms,
  });
  return compressed(event.request, response);
};

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (status === 404) return { message: 'There is no such page here.' };
  if (status < 500) return { message };
  const about = { route: event.route.id, method: event.request.method };
  const number = logUnexpected(error, about, event.locals.number);
  return {
    message: `Something went wrong on our side (number ${number}). What you wrote is kept; please try again.`,
  };
};
