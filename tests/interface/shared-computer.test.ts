import type { BrowserContext, Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { PASSWORD } from '../../demo/people';
import { beginOriginal } from '../support/begin-original';
import { signIn } from '../support/browser';
import { reach } from '../support/keys';
import { useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow', sessions: 'new' });

const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();
const saved = (page: Page) => sees(page, 'everything is saved');

/** A student at their copy of Harbour sketch, with the cursor where they write. */
async function atCopy(name: string) {
  const entered = await stage.enter(name);
  await entered.page.getByRole('link', { name: 'Harbour sketch' }).click();
  await entered.page.locator('.answer-writing').click();
  await saved(entered.page);
  return { ...entered, copy: entered.page.url().split('/').at(-1) ?? '' };
}

/** What a page holds, as one of the staff reads it in another browser. */
async function readPage(copy: string): Promise<string> {
  const { page } = await stage.enter('tamsin.orrey');
  return (await page.request.get(`/pages/${copy}`)).text();
}

async function openInMarking(page: Page, student: string) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await page.getByRole('button', { name: new RegExp(`^${student}, Harbour sketch`) }).click();
  await page.getByRole('link', { name: 'Open copy' }).click();
  await page.getByRole('textbox', { name: /^On the whole copy/ }).waitFor();
}

const signOut = async (page: Page) => {
  await page.getByRole('button', { name: 'your menu' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL('**/sign-in');
};

/** Everything that lies in this browser's IndexedDB, as text. */
const whatLiesThere = (page: Page) =>
  page.evaluate(async () => {
    const all: unknown[] = [];
    for (const { name } of await indexedDB.databases()) {
      const database = await new Promise<IDBDatabase>((resolve, reject) => {
        const asked = indexedDB.open(name ?? '');
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(asked.error);
      });
      for (const store of database.objectStoreNames)
        all.push(
          await new Promise((resolve) => {
            const asked = database.transaction(store).objectStore(store).getAll();
            asked.onsuccess = () => resolve(asked.result);
          }),
        );
      database.close();
    }
    return JSON.stringify(all, (_, value) =>
      value instanceof ArrayBuffer ? new TextDecoder('latin1').decode(value) : value,
    );
  });

const sessionOf = async (context: BrowserContext) =>
  (await context.cookies()).find(({ name }) => name === 'uncia');

describe('signing out', () => {
  it('works by mouse, and the session is over on the server, too', async () => {
    const { page, context } = await stage.enter('ada.fennick');
    const before = await sessionOf(context);
    await signOut(page);
    expect(await sessionOf(context)).toBeUndefined();
    await context.addCookies([{ name: 'uncia', value: before?.value ?? '', url: page.url() }]);
    expect((await page.request.get('/live', { maxRedirects: 0 })).status()).toBe(401);
  });

  it('works by keyboard alone', async () => {
    const { page } = await stage.enter('ada.fennick');
    await page.getByRole('button', { name: 'your menu' }).focus();
    await page.keyboard.press('Enter');
    await reach(page, /^Sign out/);
    await page.keyboard.press('Enter');
    await page.waitForURL('**/sign-in');
  });

  it('says so when nobody is signed out, and is done once there is a connection', async () => {
    const { page, context } = await stage.enter('ada.fennick');
    await context.setOffline(true);
    await page.getByRole('button', { name: 'your menu' }).click();
    await page.getByRole('button', { name: 'Sign out' }).click();
    await page.getByRole('alert').getByText('You are still signed in').waitFor();
    expect(await sessionOf(context)).toBeDefined();
    await context.setOffline(false);
    await page.getByRole('alert').getByRole('button', { name: 'Sign out' }).click();
    await page.waitForURL('**/sign-in');
    expect(await sessionOf(context)).toBeUndefined();
  });

  it('leaves nothing to see by going back', async () => {
    const { page } = await stage.enter('ada.fennick');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await saved(page);
    await signOut(page);
    await page.goBack();
    await page.getByLabel('Password').waitFor();
    expect(await page.getByText('Harbour sketch').count()).toBe(0);
  });
});

describe('the last words before a view is left', () => {
  it('are on the server when the next view is there', async () => {
    const { page, copy } = await atCopy('roisin.quillan');
    await page.keyboard.type('Gone at once.');
    await page.getByRole('link', { name: 'My work' }).click();
    await page
      .getByRole('heading', { name: 'My work' })
      .or(page.getByText('Rule of twelfths'))
      .first()
      .waitFor();
    expect(await (await page.request.get(`/pages/${copy}`)).text()).toContain('Gone at once.');
  });

  it('are sent when the browser is closed within a moment', async () => {
    const { page, copy, context } = await atCopy('wren.yardley');
    await page.keyboard.type('Closed at once.');
    await page.close();
    const again = await context.newPage();
    await again.goto('/calendar');
    await expect
      .poll(async () => (await again.request.get(`/pages/${copy}`)).text())
      .toContain('Closed at once.');
  });

  it('are sent before one signs out', async () => {
    const { page, copy } = await atCopy('mateo.varga');
    await page.keyboard.type('Signed out at once.');
    await signOut(page);
    expect(await readPage(copy)).toContain('Signed out at once.');
  });

  it('are in what is handed out', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await beginOriginal(page, 'Typed and handed out');
    await page.keyboard.type('The very last words.');
    await page.getByRole('button', { name: 'Hand out: Typed and handed out' }).click();
    await page.getByRole('link', { name: 'In 8C' }).click();
    await page.getByRole('button', { name: 'Hand out now' }).click();
    await page.getByRole('heading', { name: '8C Coast & Chart' }).waitFor();
    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('link', { name: 'Typed and handed out' }).click();
    await sees(student, 'The very last words.');
  });
});

describe('a computer that several use', () => {
  it('keeps unsent words for their writer, unreadable for the next person and never under their name', async () => {
    const { page, context, copy } = await atCopy('june.hesper');
    await context.setOffline(true);
    await page.keyboard.type('Only June wrote this.');
    await sees(page, 'your words are kept in this browser');
    const address = page.url();
    // June's session ends without her, before her closing page could send anything; the next person signs in.
    await context.clearCookies();
    await page.close({ runBeforeUnload: false });
    await context.setOffline(false);
    const next = await context.newPage();
    await next.goto('/sign-in');
    await signIn(next, 'tamsin.orrey', PASSWORD);
    await openInMarking(next, 'Hesper, June');
    const read = async () => (await next.request.get(`/pages/${copy}`)).text();
    const marking = await next.request.get(`/pages/${copy}/peek`);
    expect(marking.ok()).toBe(true);
    expect(await read()).not.toContain('Only June wrote this.');
    const there = await whatLiesThere(next);
    expect(there.length).toBeGreaterThan(100);
    expect(there).not.toContain('Only June');
    await signOut(next);
    // June comes back, and opens another view than that page.
    await signIn(next, 'june.hesper', PASSWORD);
    await expect.poll(read).toContain('Only June wrote this.');
    await next.goto(address);
    await sees(next, 'Only June wrote this.');
  });

  it('shows a half-typed comment to nobody but its writer', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openInMarking(page, 'Fennick, Ada');
    const box = page.getByRole('textbox', { name: /^On the whole copy/ });
    await box.fill('Between you and me');
    const address = page.url();
    await signOut(page);
    await signIn(page, 'bea.lindqvist', PASSWORD);
    await page.goto(address);
    await page.getByRole('textbox', { name: /^On the whole copy/ }).waitFor();
    expect(await page.getByRole('textbox', { name: /^On the whole copy/ }).inputValue()).toBe('');
    await signOut(page);
    await signIn(page, 'tamsin.orrey', PASSWORD);
    await page.goto(address);
    await expect
      .poll(() => page.getByRole('textbox', { name: /^On the whole copy/ }).inputValue())
      .toBe('Between you and me');
  });

  it('begins anew in the tabs of the one who was here before', async () => {
    const { page, context } = await atCopy('una.ulvik');
    const second = await context.newPage();
    await context.clearCookies();
    await second.goto('/sign-in');
    await signIn(second, 'jan.pellworm', PASSWORD);
    // Una's tab does not go on under Jan's name.
    await page.getByText('Jan Pellworm').or(page.getByText('Nothing here')).first().waitFor();
  });
});

describe('signing in', () => {
  it('keeps a name that was typed before the view answers', async () => {
    const { context } = await stage.enter('noor.bastrop');
    await context.clearCookies();
    const page = await context.newPage();
    const devtools = await context.newCDPSession(page);
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: 20 });
    await page.goto('/sign-in', { waitUntil: 'commit' });
    await page.getByRole('textbox', { name: 'Name' }).fill('noor.bastrop');
    await page.locator('html[data-ready]').waitFor({ state: 'attached' });
    expect(await page.getByRole('textbox', { name: 'Name' }).inputValue()).toBe('noor.bastrop');
  });
});
