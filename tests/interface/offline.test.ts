import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { signIn } from '../support/browser';
import { keptHere, saved, useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow', sessions: 'new' });
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

/** Somebody opens their copy of the sketch, and the browser keeps it as it is then. */
async function openSketch(name: string) {
  const entered = await stage.enter(name);
  const { page } = entered;
  await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
  await writing(page).waitFor();
  const address = new URL(page.url()).pathname;
  await expect.poll(() => keptViews(page)).toContain(address);
  return { ...entered, address };
}

describe('a copy without a network', () => {
  it('opens after a reload with all its words, and takes more, which arrives once', async () => {
    const { page: june, context } = await openSketch('june.hesper');
    await type(june, 'Written with a network. ');
    await saved(june);
    await context.setOffline(true);
    await type(june, 'Written without one. ');
    await keptHere(june);
    june.on('dialog', (dialog) => void dialog.accept());
    await june.reload();
    await writing(june).getByText('Written with a network.').waitFor();
    await writing(june).getByText('Written without one.').waitFor();
    await away(june);
    await type(june, 'And after the reload. ');
    await writing(june).getByText('And after the reload.').waitFor();
    await keptHere(june);
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

  it('is kept at once by a browser that is slow to keep, however fast somebody types', async () => {
    const { page: viggo, context } = await openSketch('viggo.ekholm');
    await context.setOffline(true);
    await type(viggo, 'One. ');
    await keptHere(viggo);
    const sealing = await viggo.evaluateHandle(() => {
      const encrypt = crypto.subtle.encrypt.bind(crypto.subtle);
      const now = { times: 0, letGo: () => {} };
      const held = new Promise<void>((resolve) => (now.letGo = resolve));
      crypto.subtle.encrypt = async (...asked) => {
        now.times++;
        await held;
        return encrypt(...asked);
      };
      return now;
    });
    await type(viggo, 'Two, three, four, five, six, seven, eight. ');
    await writing(viggo).getByText('seven, eight.').waitFor();
    expect(await viggo.locator('[role=status][aria-busy=true]').count()).toBe(1);
    await sealing.evaluate((now) => now.letGo());
    await keptHere(viggo);
    expect(await sealing.evaluate(({ times }) => times)).toBeLessThan(10);
    viggo.on('dialog', (dialog) => void dialog.accept());
    await viggo.reload();
    await writing(viggo).getByText('seven, eight.').waitFor();
  });

  it('is kept with the words that the server had last, before it is said to be', async () => {
    const { page: isla, context } = await openSketch('isla.abernathy');
    await isla.evaluate(() => {
      const encrypt = crypto.subtle.encrypt.bind(crypto.subtle);
      crypto.subtle.encrypt = (...asked) =>
        new Promise((resolve) => setTimeout(resolve, 700)).then(() => encrypt(...asked));
    });
    await type(isla, 'With a network. ');
    await saved(isla);
    await context.setOffline(true);
    await type(isla, 'Without one.');
    await keptHere(isla);
    isla.on('dialog', (dialog) => void dialog.accept());
    await isla.reload();
    await writing(isla).getByText('With a network. Without one.').waitFor();
  });

  it('says that words wait which it cannot show yet', async () => {
    const { page: teo, context } = await openSketch('teo.calloway');
    // The page itself finds no room in this browser.
    await teo.evaluate(() => {
      const { put } = IDBObjectStore.prototype;
      IDBObjectStore.prototype.put = function (value, key) {
        if (String(key).includes(' page ')) throw new DOMException('Full.', 'QuotaExceededError');
        return put.call(this, value, key);
      };
    });
    await type(teo, 'With a network. ');
    await saved(teo);
    await context.setOffline(true);
    await type(teo, 'Without one.');
    await keptHere(teo);
    teo.on('dialog', (dialog) => void dialog.accept());
    await teo.reload();
    await keptHere(teo);
    expect(await writing(teo).innerText()).not.toContain('Without one.');
    await context.setOffline(false);
    await writing(teo).getByText('With a network. Without one.').waitFor();
    await saved(teo);
  });

  it('sends what is typed while a slow browser still keeps the words before', async () => {
    const { page } = await openSketch('jan.pellworm');
    const letGo = await page.evaluateHandle(() => {
      const encrypt = crypto.subtle.encrypt.bind(crypto.subtle);
      let letGo = () => {};
      const held = new Promise<void>((resolve) => (letGo = resolve));
      crypto.subtle.encrypt = (...asked) => held.then(() => encrypt(...asked));
      return letGo;
    });
    await type(page, 'One.');
    await saved(page);
    await page.keyboard.type(' Two.');
    await saved(page);
    await letGo.evaluate((go) => go());
    await page.reload();
    await writing(page).getByText('One. Two.').waitFor();
  });

  it('is said to be on the page alone by a browser whose store is full', async () => {
    const { page: priya, context } = await openSketch('priya.dunmore');
    await context.setOffline(true);
    const full = await priya.evaluateHandle(() => {
      const { put } = IDBObjectStore.prototype;
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('The store is full.', 'QuotaExceededError');
      };
      return () => (IDBObjectStore.prototype.put = put);
    });
    await type(priya, 'One. ');
    await priya.getByText('your words are on this page alone, which must stay open').waitFor();
    await full.evaluate((makeRoom) => void makeRoom());
    await type(priya, 'Two. ');
    await keptHere(priya);
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
    await expect.poll(() => keptViews(ada)).toContain(address);
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
    const { page: dayo, context, address } = await openSketch('dayo.lomax');
    await dayo
      .getByRole('button', { name: /Dayo Lomax|Account|DL/ })
      .first()
      .click();
    await dayo.getByRole('button', { name: 'Sign out' }).click();
    await dayo.waitForURL(/sign-in/);
    await expect.poll(() => keptViews(dayo)).toEqual([]);
    await context.setOffline(true);
    await expect(dayo.goto(address)).rejects.toThrow();
  });

  it('is forgotten when somebody else signs in, though nobody signed out', async () => {
    const { page, context, address } = await openSketch('dayo.lomax');
    await context.clearCookies();
    await signIn(page, 'una.ulvik', 'skerry-point');
    await expect.poll(() => keptViews(page)).not.toContain(address);
  });

  it('is forgotten when the server has signed its student out', async () => {
    const { page, context, address } = await openSketch('dayo.lomax');
    await context.clearCookies();
    await page.goto(address);
    await page.getByRole('textbox', { name: 'Name' }).waitFor();
    await expect.poll(() => keptViews(page)).toEqual([]);
  });
});
