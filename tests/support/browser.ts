import {
  chromium,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Page,
} from 'playwright-core';

/** How far the clock of the tests is from the machine's, in milliseconds; see `scripts/lib/clock.mjs`. */
const CLOCK_SHIFT = Number(process.env.CLOCK_SHIFT ?? 0);

/** The browser's process keeps the machine's clock: with a shifted one its threads spin. Its pages are given the tests'. */
const ownClock = () => {
  const env = { ...process.env };
  delete env.LD_PRELOAD;
  return env;
};

/** In each page, before its own scripts: the clock of the tests. */
function shiftDate(shift: number): void {
  const Machine = Date;
  globalThis.Date = new Proxy(Machine, {
    construct: (_, given: [], target) =>
      Reflect.construct(Machine, given.length > 0 ? given : [Machine.now() + shift], target),
    apply: () => new Machine(Machine.now() + shift).toString(),
    get: (_, key) => (key === 'now' ? () => Machine.now() + shift : Reflect.get(Machine, key)),
  });
}

/** Debian's Chromium, headless; without the background talk that a closed network refuses. */
export const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.CHROMIUM_SHELL ?? '/usr/bin/chromium-headless-shell',
    env: ownClock(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });

/** A browser of one's own, at the size most screens of a school have. */
export async function openBrowser(
  browser: Browser,
  origin: string,
  device: BrowserContextOptions = {},
): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({
    baseURL: origin,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    ...device,
  });
  if (CLOCK_SHIFT) await context.addInitScript(shiftDate, CLOCK_SHIFT);
  return { context, page: await context.newPage() };
}

export async function signIn(page: Page, name: string, password: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
}
