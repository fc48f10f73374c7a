import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { holdBack, useStage } from '../support/stage';

const stage = useStage();

async function openByCriterion(page: Page) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8C' });
  await board.getByRole('link', { name: 'A light’s character' }).click();
  await page.getByRole('link', { name: 'Mark', exact: true }).click();
  await page.getByRole('link', { name: 'By criterion' }).click();
  await page.waitForURL(/by-criterion/);
  await page.getByRole('link', { name: 'Timing', exact: true }).click();
  await page.waitForURL(/criterion=timing/);
}
const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });
const titles = (page: Page) => page.locator('[data-copy] > div > h2');
const level = (page: Page, name: string) =>
  page.getByRole('radiogroup', { name: `Timing, ${name}` });

/** Somebody else scores a copy meanwhile. */
async function scoreTiming(page: Page, copy: string | null, points: string) {
  const { page: bea } = await stage.enter('bea.lindqvist');
  await bea.goto(`${page.url().split('/assignments')[0]}/marking/${copy}`);
  const timing = bea.getByRole('radiogroup', { name: 'Timing' });
  await timing.getByRole('radio').first().focus();
  await bea.keyboard.press(points);
  await bea.getByRole('button', { name: 'Save', exact: true }).click();
  await bea.getByRole('button', { name: 'Saved' }).waitFor();
  return { bea, timing };
}

describe('one criterion across the class', () => {
  it('is scored down the list by keys, and each level is kept at once beside the other criteria', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const scored = page.getByText(/of 8 copies scored for this one/);
    expect(await scored.textContent()).toContain('0 of 8 copies');
    // From copy to copy, without the mouse.
    await page.keyboard.press(']');
    const names = await titles(page).allTextContents();
    const [first = '', second = ''] = names.map((name) => name.trim());
    await page.keyboard.press('3');
    await row(page, first).getByRole('status').waitFor();
    await page.keyboard.press(']');
    await page.keyboard.press('1');
    await page.keyboard.press('.');
    await row(page, second).getByRole('status').waitFor();
    await expect.poll(() => scored.textContent()).toContain('2 of 8 copies');
    await row(page, second)
      .getByLabel(/^Words on Timing/)
      .fill('Count the dark, too.');
    await page.getByRole('heading', { level: 1 }).click();
    await row(page, second).getByRole('status').waitFor();

    // It is there when the copy is marked as a whole, with nothing of the other criteria.
    await row(page, second).getByRole('link', { name: second }).click();
    await page.getByRole('textbox', { name: `${second}’s copy` }).waitFor();
    expect(await page.getByLabel('Words on Timing').inputValue()).toBe('Count the dark, too.');
    await page.getByText('1½ of 20 so far, 4 criteria left', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Saved' }).waitFor();
  });

  it('goes by level, without names, and says when somebody else scored a copy meanwhile', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const names = (await titles(page).allTextContents()).map((one) => one.trim());
    const last = names.at(-1) ?? '';
    await level(page, last).getByRole('radio').last().focus();
    await page.keyboard.press('4');
    await row(page, last).getByRole('status').waitFor();
    await page.getByText('By level').click();
    await expect.poll(() => titles(page).first().textContent()).toContain(last);
    await page.getByText('Without names').click();
    const unnamed = await titles(page).first().textContent();
    expect(unnamed?.trim()).toBe(`Copy ${names.length}`);
    expect(await page.getByRole('main').textContent()).not.toContain(last);
    await page.getByText('Without names').click();

    const copy = await page.locator('[data-copy]').nth(1).getAttribute('data-copy');
    const [, other = ''] = (await titles(page).allTextContents()).map((one) => one.trim());
    // Begun here, while the network is away; scored elsewhere, and met here again.
    await page.context().setOffline(true);
    await level(page, other).getByRole('radio').first().focus();
    await page.keyboard.press('2');
    await row(page, other).getByText('What you chose is still here.').waitFor();
    await page.context().setOffline(false);
    const { bea, timing } = await scoreTiming(page, copy, '4');
    const mine = row(page, other);
    await mine.getByText('Somebody else scored this copy meanwhile').waitFor();
    await mine.getByRole('button', { name: 'Save mine over it' }).click();
    await mine.getByRole('status').waitFor();
    await bea.reload();
    await timing.locator('input[value="2"]:checked').waitFor({ state: 'attached' });
  });

  it('saves a level that is chosen while the one before is on its way', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const name = ((await titles(page).nth(2).textContent()) ?? '').trim();
    const slowly = await holdBack(page, /\/marking$/, { method: 'POST' });
    await level(page, name).getByRole('radio').first().focus();
    await page.keyboard.press('1');
    await page.keyboard.press('4');
    slowly.letGo();
    await row(page, name).getByRole('status').waitFor();
    await page.reload();
    await level(page, name).locator('input[value="4"]:checked').waitFor({ state: 'attached' });
  });

  it('keeps a level over what was read before it was saved', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const [, , , name = '', other = ''] = (await titles(page).allTextContents()).map((one) =>
      one.trim(),
    );
    const copy = await page.locator('[data-copy]').nth(4).getAttribute('data-copy');
    const { bea } = await scoreTiming(page, copy, '3');
    await level(page, other).locator('input[value="3"]:checked').waitFor({ state: 'attached' });
    // All that was told until now is read.
    const reading = /by-criterion\/__data\.json/;
    const isRead = () =>
      page.waitForRequest(reading, { timeout: 1500 }).then(
        () => false,
        () => true,
      );
    while (!(await isRead()));
    // Somebody else scores another copy, so that all is read again; the answer is late, and no later one comes.
    const slowly = await holdBack(page, reading, { read: true });
    await bea.getByRole('radiogroup', { name: 'Timing' }).getByRole('radio').first().focus();
    await bea.keyboard.press('4');
    await bea.getByRole('button', { name: 'Save', exact: true }).click();
    await slowly.asked;
    await page.route('**/health', (route) => route.fulfill({ status: 503, body: '' }));
    await level(page, name).getByRole('radio').first().focus();
    await page.keyboard.press('2');
    const mine = row(page, name).getByRole('status');
    await mine.waitFor();
    slowly.letGo();
    await level(page, other).locator('input[value="4"]:checked').waitFor({ state: 'attached' });
    expect(await level(page, name).locator('input[value="2"]:checked').count()).toBe(1);
    await page.keyboard.press('3');
    await mine.waitFor({ state: 'detached' });
    await mine.waitFor();
    await page.reload();
    await level(page, name).locator('input[value="3"]:checked').waitFor({ state: 'attached' });
  });

  it('shows what it was told of while the server had no answer', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const name = ((await titles(page).nth(5).textContent()) ?? '').trim();
    const busy = { status: 503, body: '' };
    await page.route('**/health', (route) => route.fulfill(busy), { times: 1 });
    await scoreTiming(
      page,
      await page.locator('[data-copy]').nth(5).getAttribute('data-copy'),
      '2',
    );
    await level(page, name).locator('input[value="2"]:checked').waitFor({ state: 'attached' });
  });

  it('has examples of its levels, without a name, which who marks by the rubric looks at', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openByCriterion(page);
    const [name = ''] = (await titles(page).allTextContents()).map((one) => one.trim());
    await level(page, name).getByRole('radio').last().focus();
    await page.keyboard.press('3');
    await row(page, name).getByRole('button', { name: 'Keep as an example of 3' }).click();
    const sheet = page.getByRole('dialog', { name: 'An example of 3 in Timing' });
    await sheet.getByText('Each light at sea has its own rhythm').waitFor();
    expect(await sheet.textContent()).not.toContain(name.split(' ')[0]);
    await sheet.getByRole('button', { name: 'Close' }).click();
    await sheet.waitFor({ state: 'detached' });

    const { page: bea } = await stage.enter('bea.lindqvist');
    const copy = await page.locator('[data-copy]').nth(1).getAttribute('data-copy');
    await bea.goto(`${page.url().split('/assignments')[0]}/marking/${copy}`);
    await bea.getByRole('button', { name: 'Timing', exact: true }).click();
    await bea.getByRole('button', { name: 'Example of 3' }).click();
    const seen = bea.getByRole('dialog', { name: 'An example of 3 in Timing' });
    await seen.getByText('Each light at sea has its own rhythm').waitFor();
    await seen.getByRole('button', { name: 'No example any more' }).click();
    await seen.waitFor({ state: 'detached' });
    expect(await bea.getByRole('button', { name: 'Example of 3' }).count()).toBe(0);
  });
});
