import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Eavesdropper } from '../support/eavesdropper';
import { holdBack, selectWords, useStage } from '../support/stage';

const stage = useStage();
let between: Eavesdropper;
beforeAll(async () => {
  between = await Eavesdropper.before(stage.server.origin);
});
afterAll(() => between.leave());

/** Written by staff: none of it is the student's to know before the copy goes back. */
const WAITS = { comment: 'WAITS-COMMENT', proposal: 'WAITSPROPOSAL', words: 'WAITS-WORDS' };
const STAFF = 'STAFF-ALONE';
const REASON = 'WAITS-REASON';

const comment = async (page: Page, text: string, staffOnly = false) => {
  await page.getByRole('textbox', { name: /^On / }).fill(text);
  if (staffOnly) await page.getByText('For staff only').click();
  await page.getByRole('button', { name: 'Add comment' }).click();
  await page
    .getByRole('article', { name: /^Comment/ })
    .getByText(text)
    .waitFor();
};

/** Goes through all that a student has. */
async function goThrough(page: Page, copy: string) {
  await page.goto(copy);
  await page.getByText('From your teachers').waitFor();
  await page.getByRole('button', { name: 'How it was written' }).click();
  await page.getByRole('document', { name: 'The page at this moment' }).waitFor();
  await page.goto('/mailbox');
  await page.goto('/');
  for (const path of ['plan', 'workbook', 'grades']) {
    const to = await page
      .locator(`a[href*="/${path}"]`)
      .first()
      .getAttribute('href', { timeout: 500 })
      .catch(() => null);
    if (to) await page.goto(to);
  }
  for (const words of [...Object.values(WAITS), STAFF]) {
    await page.goto('/');
    await page.getByRole('button', { name: 'Find anything' }).click();
    await page.getByRole('combobox', { name: 'Find anything' }).fill(words);
    await page
      .getByText(/Nothing|No /)
      .first()
      .waitFor();
  }
}

describe('what is kept back', () => {
  it('is in nothing that a student’s browser receives, until the copy goes back; what is the staff’s, never', async () => {
    const { page: student } = await stage.enter('ada.fennick', { baseURL: between.origin });
    await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await student.waitForURL(/\/work\//);
    const copy = new URL(student.url()).pathname;
    await student.getByText('handed in').first().waitFor();

    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.waitForURL(/classes/);
    const klass = /classes\/([^/?]+)/.exec(teacher.url())?.[1] ?? '';
    await teacher.goto(`/classes/${klass}/marking/${copy.split('/').at(-1)}`);
    await teacher.getByText('Send when the copy goes back').click();
    await comment(teacher, WAITS.comment);
    await comment(teacher, STAFF, true);
    await teacher.getByText('Propose', { exact: true }).click();
    const words = await teacher.locator('.answer-writing').first().innerText();
    const [first = ''] = words.split(' ');
    await selectWords(teacher, first);
    await expect.poll(() => teacher.evaluate(() => String(getSelection()))).toBe(first);
    await teacher.keyboard.type(WAITS.proposal);
    await teacher.getByText('Comment', { exact: true }).first().click();
    await teacher.getByRole('article', { name: new RegExp(WAITS.proposal) }).waitFor();
    const criterion = teacher.getByRole('radiogroup', { name: 'Depths' });
    await criterion.locator('label').last().click();
    await teacher.getByLabel('Words on Depths').fill(WAITS.words);
    await teacher.getByRole('button', { name: 'Save', exact: true }).click();
    await teacher
      .getByText(/^saved|Saved/)
      .first()
      .waitFor();
    // The student is there, and looks everywhere.
    await goThrough(student, copy);
    const secret = [...Object.values(WAITS), STAFF, REASON];
    expect(between.length).toBeGreaterThan(100_000);
    expect(between.heardOf(secret)).toEqual([]);

    await student.goto(copy);
    await teacher.getByRole('button', { name: 'Hand back' }).click();
    await student.getByText(WAITS.comment).waitFor();
    await student.getByRole('article', { name: new RegExp(WAITS.proposal) }).waitFor();
    await student.getByText(WAITS.words).waitFor();
    expect(between.heardOf(secret).sort()).toEqual(Object.values(WAITS).sort());
  });
});

it('keeps what is typed while a comment is on its way', async () => {
  const { page } = await stage.enter('tamsin.orrey');
  await page.getByRole('link', { name: /^Mark: A light/ }).click();
  const field = page.getByRole('textbox', { name: /^On / });
  await field.fill('The first.');
  const slowly = await holdBack(page, /\/threads/, { method: 'POST' });
  await page.getByRole('button', { name: 'Add comment' }).click();
  await slowly.asked;
  await field.fill('The second.');
  slowly.letGo();
  await page
    .getByRole('article', { name: /^Comment/ })
    .getByText('The first.')
    .waitFor();
  await expect.poll(() => page.getByRole('button', { name: 'Add comment' }).isEnabled()).toBe(true);
  expect(await field.inputValue()).toBe('The second.');
});
