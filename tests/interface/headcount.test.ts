import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

const cell = (page: Page, who: string, title: string, state: string | RegExp) =>
  page.getByRole('button', {
    name: typeof state === 'string' ? `${who}, ${title}: ${state}` : state,
  });

async function openGaps(page: Page) {
  await page.getByRole('link', { name: /^See gaps: Zina Okpara lacks copies/ }).click();
  await page.getByRole('list', { name: 'Headcount' }).waitFor();
}
const undo = async (page: Page) => page.getByRole('button', { name: 'Undo', exact: true }).click();

describe('the headcount', () => {
  it('says who lacks copies, gives them, and takes that back; the student sees them come and go', async () => {
    const { page: student } = await stage.enter('zina.okpara');
    const { page } = await stage.enter('tamsin.orrey');
    await openGaps(page);
    const row = page.getByRole('listitem').filter({ hasText: 'A light’s character' });
    await row.getByText('23 copies should be there, 22 are').waitFor();
    await cell(page, 'Okpara, Zina', 'A light’s character', 'no copy, a gap').click();
    await page.getByText(/^Zina Okpara has no copy of it; they joined on Monday/).waitFor();
    await page.getByText('A copy will be made for Zina Okpara, as the others got it.').waitFor();
    await page.getByRole('button', { name: 'Make the copy' }).click();
    await page.getByText('The copy is made.').waitFor();
    await student.getByRole('link', { name: 'A light’s character' }).waitFor();
    await undo(page);
    await cell(page, 'Okpara, Zina', 'A light’s character', 'removed, a gap').waitFor();
    await student.getByRole('link', { name: 'A light’s character' }).waitFor({ state: 'detached' });
    // All at once, and each page that is shared with them, too.
    await page.getByRole('button', { name: /^Give all \d to Zina Okpara/ }).click();
    await page.getByText('What was missing is there now.').waitFor();
    await student.getByRole('link', { name: 'A light’s character' }).waitFor();
    await student.getByRole('link', { name: 'Ask the harbour master' }).waitFor();
    await page.getByRole('radio', { name: 'Gaps 1' }).waitFor({ state: 'attached' });
    await undo(page);
    await page.getByRole('radio', { name: 'Gaps 8' }).waitFor({ state: 'attached' });
  });

  it('finds what a student emptied while the teacher looks, and puts it back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openGaps(page);
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').click();
    await page.getByText(/it went from \d+ words to \d+ in one sitting/).waitFor();
    await page
      .getByRole('document', { name: 'The page before' })
      .getByText(/breakwater|berths/)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Put it back' }).click();
    await page.getByText('The page is put back.').waitFor();
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').waitFor({
      state: 'detached',
    });
    const { page: student } = await stage.enter('dayo.lomax');
    await student.goto('/mailbox');
    await student.getByText('Put back as it stood before: Harbour sketch').click();
    const writing = student.locator('.answer-writing').first();
    await expect
      .poll(async () => ((await writing.textContent()) ?? '').length)
      .toBeGreaterThan(200);
    // Again, under the teacher's eyes; this time she accepts it.
    await writing.locator('p').first().click({ clickCount: 3 });
    await student.keyboard.press('Delete');
    await student.getByText('everything is saved').first().waitFor();
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').click();
    await page.getByRole('button', { name: 'Accept as it is' }).click();
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').waitFor({
      state: 'detached',
    });
    await page.reload();
    await page.getByRole('list', { name: 'Headcount' }).waitFor();
    expect(await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').count()).toBe(0);
  });

  it('has a copy that the teacher removed, until it is given back as it was', async () => {
    const { page: student } = await stage.enter('ben.jarrold');
    const link = student.getByRole('link', { name: 'Harbour sketch' });
    await link.waitFor();
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page
      .getByRole('region', { name: 'Board of 8C' })
      .getByRole('link', { name: 'Harbour sketch' })
      .click();
    await page.getByRole('button', { name: 'More about Jarrold, Ben' }).click();
    await page.getByRole('button', { name: 'Remove copy' }).click();
    const row = page.getByRole('listitem').filter({ hasText: 'Jarrold, Ben' });
    await row.getByText('no copy yet').waitFor();
    await link.waitFor({ state: 'detached' });
    await page.goto(page.url().replace(/\/assignments\/.*/, '?lens=gaps'));
    await cell(page, 'Jarrold, Ben', 'Harbour sketch', 'removed, a gap').click();
    await page.getByText(/^It was removed on .* words stand in it\.$/).waitFor();
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await page.getByText('The copy is back.').waitFor();
    await link.waitFor();
  });
});
