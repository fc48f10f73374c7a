import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { caretTold, useStage } from '../support/stage';

const stage = useStage();

async function openCopy(page: Page, given: string, family: string) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8C' });
  await board.getByRole('link', { name: 'A light’s character' }).click();
  await page.getByRole('link', { name: 'Mark', exact: true }).click();
  const line = page.getByRole('navigation', { name: 'Students' });
  await line.getByRole('link', { name: `${family}, ${given}` }).click();
  await page.getByRole('textbox', { name: `${given} ${family}’s copy` }).waitFor();
}
async function pick(page: Page, word: string) {
  await page.getByRole('button', { name: 'Stamps' }).click();
  await page.getByRole('button', { name: word, exact: true }).click();
}
const stamp = (page: Page, word: string) =>
  page.getByRole('img', { name: `Stamp of Ms Orrey: ${word}` });

describe('stamps', () => {
  it('are put on a place by hand, by key and by part, and their student sees them there', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openCopy(tamsin, 'Teo', 'Calloway');
    const copy = tamsin.getByRole('textbox', { name: 'Teo Calloway’s copy' });
    await pick(tamsin, 'Well seen');
    await copy
      .getByText('Each light at sea has its own rhythm')
      .click({ position: { x: 50, y: 12 } });
    await stamp(tamsin, 'Well seen').waitFor();
    await pick(tamsin, 'With its unit');
    await tamsin.getByRole('button', { name: 'on part 2' }).click();
    await stamp(tamsin, 'With its unit').waitFor();
    // By keys alone: picked, and put at the caret.
    await pick(tamsin, 'Say more');
    await copy.focus();
    await tamsin.keyboard.press('ControlOrMeta+Home');
    await caretTold(tamsin);
    await tamsin.keyboard.press('Enter');
    await stamp(tamsin, 'Say more').waitFor();
    await expect.poll(() => copy.locator('.stamp').count()).toBe(3);
    const margin = tamsin.getByRole('article', { name: /^Stamp on “/ });
    await expect.poll(() => margin.count()).toBe(3);

    const { page: teo } = await stage.enter('teo.calloway');
    await teo
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const seen = stamp(teo, 'Well seen');
    await seen.waitFor();
    // The first of a line stands beside it, the second below that; they move with it.
    const line = teo.locator('.ProseMirror').getByText('Each light at sea has its own rhythm');
    const below = async (one: string) => {
      const [a, b] = [await stamp(teo, one).boundingBox(), await line.boundingBox()];
      return (a?.y ?? 0) - (b?.y ?? 0);
    };
    const stand = async () => {
      const both = [await below('Say more'), await below('Well seen')];
      const [first = NaN, second = NaN] = both.sort((a, b) => a - b);
      expect(Math.abs(first)).toBeLessThan(24);
      expect(second - first).toBeCloseTo(36, 0);
    };
    await stand();
    await teo.setViewportSize({ width: 390, height: 844 });
    await stand();
    expect((await seen.boundingBox())?.x).toBeLessThan(390 - 30);
    await seen.click();
    const card = teo.getByRole('article', { name: /^Stamp on “/ }).filter({ hasText: 'Well seen' });
    await card.waitFor();
    // Nothing covers them: not each other, nor the answer that one is on.
    for (const word of ['Say more', 'Well seen', 'With its unit'])
      await stamp(teo, word).click({ trial: true });
  });

  it('of one’s own are drawn, named, put, removed and brought back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.goto('/phrasebook');
    const form = page.getByRole('form', { name: 'New stamp' });
    const pad = form.getByRole('img', { name: 'Draw it here' });
    await pad.scrollIntoViewIfNeeded();
    const add = form.getByRole('button', { name: 'Add stamp' });
    expect(await add.isDisabled()).toBe(true);
    const box = await pad.boundingBox();
    if (!box) throw new Error('no place to draw');
    await page.mouse.move(box.x + 20, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 100, box.y + 40, { steps: 8 });
    await page.mouse.up();
    await form.getByLabel('Its word').fill('Skipper’s “aye”');
    await add.click();
    const own = page.getByLabel('Word of the stamp “Skipper’s “aye””');
    await own.waitFor();
    await page.getByRole('button', { name: 'Remove the stamp “Skipper’s “aye””' }).click();
    await own.waitFor({ state: 'detached' });
    await page.getByText('1 removed').click();
    await page.getByRole('button', { name: 'Restore' }).click();
    await own.waitFor();
    await page.goto('/desk');
    await openCopy(page, 'Noor', 'Bastrop');
    await pick(page, 'Skipper’s “aye”');
    await page.getByRole('button', { name: 'on the whole copy' }).click();
    const card = page.getByRole('article', { name: 'Stamp on the whole copy' });
    await card.getByText('Skipper’s “aye”').waitFor();
    const picture = card.locator('img');
    await expect
      .poll(() => picture.evaluate((one: HTMLImageElement) => one.naturalWidth))
      .toBe(192);
  });
});
