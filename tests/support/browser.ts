import {
  chromium,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Page,
} from 'playwright-core';

/** Debian's Chromium, headless; without the background talk that a closed network refuses. */
export const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      // Its microphone is a simulated one, which beeps.
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
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
  return { context, page: await context.newPage() };
}

export async function signIn(page: Page, name: string, password: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('textbox', { name: 'Name' }).fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
}
