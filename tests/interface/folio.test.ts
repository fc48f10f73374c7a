import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();
const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name, exact: true });
const text = (page: Page) => page.locator('.ProseMirror[contenteditable="true"]');
const pages = (page: Page) => page.getByRole('list', { name: /Pages of/ }).getByRole('listitem');

/** The folio of whoever is in 8C. */
async function openOwn(page: Page) {
  await page.goto('/work');
  await page
    .getByRole('link', { name: /8C Coast/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'My folio' }).click();
  await page.getByRole('heading', { name: 'My folio' }).waitFor();
}

describe('a folio', () => {
  it('is begun with a cover, put in order, and shown page by page; its teacher sees all of it', async () => {
    const { page: freja } = await stage.enter('freja.nyquist');
    const { page: ada } = await stage.enter('ada.fennick');
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await openOwn(freja);
    await freja.getByLabel('Title of my folio').fill('Freja’s “sea” & shore');
    await button(freja, 'Add cover').click();
    await text(freja).click();
    await freja.keyboard.type('By me alone.');
    await freja.getByText('everything is saved').first().waitFor();
    for (const title of ['Shells', 'Secrets']) {
      await openOwn(freja);
      await freja.getByLabel('Title of a new page').fill(title);
      await button(freja, 'Add page').click();
      await text(freja).click();
      await freja.keyboard.type(`All about ${title.toLowerCase()}.`);
      await freja.getByText('everything is saved').first().waitFor();
    }
    // What was deleted of an own page comes back from how it was written.
    await text(freja).click();
    await freja.keyboard.press('ControlOrMeta+a');
    await freja.keyboard.type('Gone.');
    await freja.getByText('everything is saved').first().waitFor();
    await button(freja, 'How it was written').click();
    const slider = freja.getByRole('slider', { name: 'Moment' });
    const moment = freja.getByRole('document', { name: 'The page at this moment' });
    await slider.focus();
    const shown = async () => (await moment.textContent()) ?? '';
    for (let i = 0; i < 60 && !(await shown()).includes('about secrets.'); i++) {
      await freja.keyboard.press('ArrowLeft');
      await freja.locator('[aria-busy=false]', { has: moment }).waitFor();
    }
    await button(freja, 'Put this back').click();
    await expect.poll(() => text(freja).first().textContent()).toContain('All about secrets.');
    await freja.getByText('everything is saved').first().waitFor();

    await openOwn(freja);
    await freja.getByLabel('Cover').getByText('By me alone.').waitFor();
    await button(freja, 'More about Secrets').click();
    await button(freja, 'Move up').click();
    await expect
      .poll(() => pages(freja).allInnerTexts())
      .toEqual([expect.stringContaining('Secrets'), expect.stringContaining('Shells')]);
    await button(freja, 'Show Shells').click();
    await pages(freja).filter({ hasText: 'Shells' }).getByText('shown to classmates').waitFor();
    const secret = await freja.getByRole('link', { name: /Secrets/ }).getAttribute('href');

    await openOwn(ada);
    await ada.getByRole('link', { name: 'Folios of 8C' }).click();
    await ada.getByRole('link', { name: /Freja’s “sea” & shore/ }).click();
    await ada.getByLabel('Cover').getByText('By me alone.').waitFor();
    expect(await pages(ada).allInnerTexts()).toEqual([expect.stringContaining('Shells')]);
    await ada.getByRole('link', { name: /Shells/ }).click();
    await ada.getByText('All about shells.').waitFor();
    expect(await button(ada, /Bold/).count()).toBe(0);
    expect(await button(ada, 'Copy to my workbook').count()).toBe(0);
    expect((await ada.goto(secret ?? ''))?.status()).toBe(404);

    await teacher.goto('/desk');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.getByRole('link', { name: 'Folios' }).click();
    await teacher.getByText('1 shown, 1 hidden').first().waitFor();
    await teacher.getByRole('link', { name: /Freja’s “sea” & shore/ }).click();
    await teacher.getByRole('link', { name: /Secrets/ }).click();
    await teacher.getByText('All about secrets.').waitFor();
    expect(await button(teacher, /Bold/).count()).toBe(0);

    // Hidden again, it is gone from classmates’ sight.
    await button(freja, 'Hide Shells').click();
    await pages(freja)
      .filter({ hasText: 'Shells' })
      .getByText('hidden; your teachers see it')
      .waitFor();
    await ada.goto(`${new URL(teacher.url()).origin}/classes`).catch(() => undefined);
    await openOwn(ada);
    await ada.getByRole('link', { name: 'Folios of 8C' }).click();
    await ada.getByRole('link', { name: /Freja’s “sea” & shore/ }).click();
    await ada.getByText('Nothing is shown yet.').waitFor();
  });
});
