import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { signIn } from '../support/browser';
import { saved, useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow', sessions: 'new' });
const PATIENT = { timeout: 60_000 };
const writing = (page: Page) => page.locator('.answer-writing').first();
const away = (page: Page) =>
  page
    .getByText(/^no connection/)
    .first()
    .waitFor();
async function type(page: Page, words: string) {
  await writing(page).click();
  await page.keyboard.press('ControlOrMeta+End');
  await page.keyboard.type(words);
}
/** What this browser keeps of views, by their addresses. */
const keptViews = (page: Page) =>
  page.evaluate(async () => {
    const cache = await caches.open('uncia pages');
    const paths = (await cache.keys()).map(({ url }) => new URL(url).pathname);
    return paths.filter((path) => path !== '/whose-pages');
  });

describe('a copy without a network', () => {
  it('opens after a reload with all its words, and takes more, which arrives once', async () => {
    const { page: june, context } = await stage.enter('june.hesper');
    await june.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await writing(june).waitFor();
    const address = new URL(june.url()).pathname;
    await type(june, 'Written with a network. ');
    await saved(june);
    await expect.poll(() => keptViews(june), PATIENT).toContain(address);
    await context.setOffline(true);
    await type(june, 'Written without one. ');
    await away(june);
    june.on('dialog', (dialog) => void dialog.accept());
    await june.reload();
    await writing(june).getByText('Written with a network.').waitFor();
    await writing(june).getByText('Written without one.').waitFor();
    await away(june);
    await type(june, 'And after the reload. ');
    // A second reload, since one may have worked by luck.
    await june.reload();
    await writing(june).getByText('And after the reload.').waitFor();

    await context.setOffline(false);
    await saved(june);
    const text = await writing(june).innerText();
    for (const words of [
      'Written with a network.',
      'Written without one.',
      'And after the reload.',
    ])
      expect(text.split(words)).toHaveLength(2);
    // The server has what she sees.
    await june.reload();
    await saved(june);
    expect(await writing(june).innerText()).toBe(text);
  });

  it('comes together with what others wrote meanwhile, for both', async () => {
    const { page: ada, context } = await stage.enter('ada.fennick');
    const { page: dayo } = await stage.enter('dayo.lomax');
    const table = (page: Page) => page.locator('.ProseMirror');
    for (const page of [ada, dayo]) {
      await page.getByRole('link', { name: '8C Coast & Chart', exact: true }).first().click();
      await page.getByRole('link', { name: 'Words we found' }).click();
      await table(page).waitFor();
    }
    const address = new URL(ada.url()).pathname;
    await expect.poll(() => keptViews(ada), PATIENT).toContain(address);
    await context.setOffline(true);
    await ada.reload();
    await table(ada).click();
    await ada.keyboard.press('ControlOrMeta+End');
    for (let i = 0; i < 5; i++) {
      await ada.keyboard.press('Enter');
      await ada.keyboard.type(`From the boat ${i}.`);
      await table(dayo).click();
      await dayo.keyboard.press('ControlOrMeta+Home');
      await dayo.keyboard.type(`From the shore ${i}. `);
    }
    await saved(dayo);
    expect(await table(dayo).innerText()).not.toContain('From the boat');
    await context.setOffline(false);
    for (const page of [ada, dayo])
      for (let i = 0; i < 5; i++) {
        await table(page).getByText(`From the boat ${i}.`).waitFor();
        await table(page).getByText(`From the shore ${i}.`).waitFor();
      }
    const lines = async (page: Page) =>
      (await table(page).locator('p').allTextContents()).join('|');
    expect(await lines(ada)).toBe(await lines(dayo));
  });

  it('is forgotten by this browser when its student signs out', async () => {
    const { page: dayo, context } = await stage.enter('dayo.lomax');
    await dayo.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await writing(dayo).waitFor();
    const address = new URL(dayo.url()).pathname;
    await expect.poll(() => keptViews(dayo), PATIENT).toContain(address);
    await dayo
      .getByRole('button', { name: /Dayo Lomax|Account|DL/ })
      .first()
      .click();
    await dayo.getByRole('button', { name: 'Sign out' }).click();
    await dayo.waitForURL(/sign-in/);
    await expect.poll(() => keptViews(dayo), PATIENT).toEqual([]);
    await context.setOffline(true);
    await expect(dayo.goto(address)).rejects.toThrow();
  });

  it('is forgotten when somebody else signs in, though nobody signed out', async () => {
    const { page, context } = await stage.enter('dayo.lomax');
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await writing(page).waitFor();
    const address = new URL(page.url()).pathname;
    await expect.poll(() => keptViews(page), PATIENT).toContain(address);
    await context.clearCookies();
    await signIn(page, 'una.ulvik', 'skerry-point');
    await expect.poll(() => keptViews(page), PATIENT).not.toContain(address);
  });

  it('is forgotten when the server has signed its student out', async () => {
    const { page, context } = await stage.enter('dayo.lomax');
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await writing(page).waitFor();
    const address = new URL(page.url()).pathname;
    await expect.poll(() => keptViews(page), PATIENT).toContain(address);
    await context.clearCookies();
    await page.goto(address);
    await page.getByRole('textbox', { name: 'Name' }).waitFor();
    await expect.poll(() => keptViews(page), PATIENT).toEqual([]);
  });
});
