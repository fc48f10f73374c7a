import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { saved, useStage } from '../support/stage';

const stage = useStage();

const text = (page: Page) => page.locator('.ProseMirror').first();
const cursorOf = (page: Page, name: string) => page.locator('.other-cursor', { hasText: name });

async function toWorktable(who: string): Promise<Page> {
  const { page } = await stage.enter(who);
  await page.getByRole('link', { name: /8C/ }).first().click();
  await page.waitForURL(/classes\/[^/]+/);
  const klass = /classes\/[^/]+/.exec(page.url())?.[0] ?? '';
  await page.goto(`/${klass}/plan`);
  await page.getByRole('link', { name: 'Words we found' }).first().click();
  await text(page).waitFor();
  return page;
}

describe('a page that a class writes together', () => {
  it('shows where each of the others writes, by name, and where they only look', async () => {
    const ada = await toWorktable('ada.fennick');
    const dayo = await toWorktable('dayo.lomax');
    await ada.getByText('Also here: Dayo Lomax').waitFor();
    await dayo.getByText('Also here: Ada Fennick').waitFor();
    await text(ada).click();
    await ada.keyboard.press('ControlOrMeta+End');
    await ada.keyboard.type(' Fathom: six feet.');
    await saved(ada);
    await cursorOf(dayo, 'Ada Fennick').waitFor();
    // Behind her last letter.
    const before = () =>
      cursorOf(dayo, 'Ada Fennick').evaluate((cursor) => {
        const range = document.createRange();
        range.setStart(cursor.closest('.ProseMirror') ?? cursor, 0);
        range.setEndBefore(cursor);
        return range.toString();
      });
    await expect.poll(before).toMatch(/Fathom: six feet\.$/);
    // He writes before it: it stays behind her words.
    await text(dayo).click();
    await dayo.keyboard.press('ControlOrMeta+Home');
    await dayo.keyboard.type('Ours: ');
    await saved(dayo);
    await cursorOf(ada, 'Dayo Lomax').waitFor();
    expect(await before()).toMatch(/Fathom: six feet\.$/);
    // She goes elsewhere without writing.
    await ada.keyboard.press('ControlOrMeta+Home');
    await expect.poll(before).toBe('');
    // Who leaves takes their cursor along.
    await ada.close();
    await cursorOf(dayo, 'Ada Fennick').waitFor({ state: 'detached' });
  });

  it('tells everybody who wrote what of it; it is put back by its teacher alone', async () => {
    const page = await toWorktable('roisin.quillan');
    await text(page).click();
    await page.keyboard.press('ControlOrMeta+End');
    await page.keyboard.type(' Lee: away from the wind.');
    await saved(page);
    const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
    const put = await page.request.post(`/pages/${id}/history`, {
      headers: { origin: new URL(page.url()).origin },
      data: { move: 'put back', version: 0 },
    });
    expect(put.status()).toBe(404);
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.goto(`/editor/${id}`);
    for (const one of [page, teacher]) {
      await one.getByRole('button', { name: 'How it was written' }).click();
      await one.getByText('Who wrote what').click();
      await one
        .getByRole('list', { name: 'Who wrote' })
        .getByRole('button', { name: /Roisin Quillan/ })
        .waitFor();
      await one.getByText('The page', { exact: true }).click();
      await one.getByRole('button', { name: /^begun/ }).click();
      await one.getByText(/^As it stood/).waitFor();
    }
    const putBack = { name: 'Put this back' };
    await expect.poll(() => teacher.getByRole('button', putBack).count()).toBe(1);
    expect(await page.getByRole('button', putBack).count()).toBe(0);
  });

  it('is shown to the whole room while its teacher writes, and to nobody by a student', async () => {
    const ada = await toWorktable('ada.fennick');
    const id = new URL(ada.url()).pathname.split('/').at(-1) ?? '';
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.goto(`/editor/${id}`);
    const [room] = await Promise.all([
      teacher.context().waitForEvent('page'),
      teacher.getByRole('link', { name: 'Show to the room' }).click(),
    ]);
    await text(room).waitFor();
    expect(await room.getByRole('banner').count()).toBe(0);
    const size = () => text(room).evaluate((one) => parseFloat(getComputedStyle(one).fontSize));
    const before = await size();
    expect(before).toBeGreaterThanOrEqual(30);
    await room.getByRole('button', { name: 'Larger letters' }).click();
    await expect.poll(size).toBeGreaterThan(before);
    // So long that its end is out of sight; what is being written is not.
    await text(teacher).click();
    await teacher.keyboard.press('ControlOrMeta+End');
    for (let i = 0; i < 12; i++) {
      await teacher.keyboard.press('Enter');
      await teacher.keyboard.type(`Line ${i} of what we say`);
    }
    const last = room.getByText('Line 11 of what we say');
    await last.waitFor();
    await expect
      .poll(() =>
        last.evaluate((line) => {
          const { top, bottom } = line.getBoundingClientRect();
          return top >= 0 && bottom <= innerHeight;
        }),
      )
      .toBe(true);
    expect((await ada.goto(`/room/${id}`))?.status()).toBe(404);
  });
});
