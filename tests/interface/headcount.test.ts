import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { oneRoad } from '../support/one-road';
import { useStage } from '../support/stage';

const stage = useStage();
oneRoad();

const cell = (page: Page, who: string, title: string, state: string | RegExp) =>
  page.getByRole('button', {
    name: typeof state === 'string' ? `${who}, ${title}: ${state}` : state,
  });
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name });
const listOf = (page: Page, cause: string) => page.getByRole('region', { name: cause });

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
    await row.getByRole('button', { name: 'A light’s character' }).click();
    await button(page, /^Make the copy … Zina Okpara, A light’s character/).click();
    await page.getByText(/^Zina Okpara has no copy of it; they joined on Monday/).waitFor();
    await page.getByText('A copy will be made for Zina Okpara, as the others got it.').waitFor();
    await page.getByRole('button', { name: 'Make the copy', exact: true }).click();
    await page.getByText('The copy is made.').waitFor();
    await student.getByRole('link', { name: 'A light’s character' }).waitFor();
    await undo(page);
    await listOf(page, 'Removed')
      .getByRole('button', { name: 'Zina Okpara', exact: true })
      .waitFor();
    await student.getByRole('link', { name: 'A light’s character' }).waitFor({ state: 'detached' });
    // All of a kind at once, and each page that is shared with them, too: first said, then done.
    await button(page, 'All assignments').click();
    await button(page, /^Make all \d … Zina Okpara/).click();
    await page
      .getByRole('region', { name: 'What will be done' })
      .getByText('A copy will be made for Zina Okpara, as the others got it.')
      .first()
      .waitFor();
    await button(page, /^Close all \d$/).click();
    await page.getByText(/^\d copies are made\.$/).waitFor();
    await student.getByRole('link', { name: 'Ask the harbour master' }).waitFor();
    await undo(page);
    await student
      .getByRole('link', { name: 'Ask the harbour master' })
      .waitFor({ state: 'detached' });
    await listOf(page, 'Never made')
      .getByRole('button', { name: /^Make all \d/ })
      .first()
      .waitFor();
  });

  it('finds what a student emptied while the teacher looks, and puts it back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openGaps(page);
    const emptied = listOf(page, 'Emptied');
    await emptied.getByRole('button', { name: 'Dayo Lomax', exact: true }).click();
    await page.getByText(/it went from \d+ words to \d+ in one sitting/).waitFor();
    await page
      .getByRole('document', { name: 'The page before' })
      .getByText(/breakwater|berths/)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Restore', exact: true }).click();
    await page.getByText('The page is restored.').waitFor();
    await emptied.waitFor({ state: 'detached' });
    const { page: student } = await stage.enter('dayo.lomax');
    await student.goto('/mailbox');
    await student.getByText('Put back as it stood before: Harbour sketch').click();
    const writing = student.locator('.answer-writing').first();
    await expect
      .poll(async () => ((await writing.textContent()) ?? '').length)
      .toBeGreaterThan(200);
    // Again, under the teacher's eyes; this time she accepts it, among all work.
    await writing.locator('p').first().click({ clickCount: 3 });
    await student.keyboard.press('Delete');
    await student.getByText('everything is saved').first().waitFor();
    await emptied.getByRole('button', { name: 'Dayo Lomax', exact: true }).waitFor();
    await page.getByText('Work', { exact: true }).click();
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').click();
    await page.getByRole('button', { name: 'Accept as it is' }).click();
    await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').waitFor({
      state: 'detached',
    });
    await page.reload();
    await cell(page, 'Nyquist, Freja', 'Harbour sketch', 'pasted over, a gap').waitFor();
    expect(await cell(page, 'Lomax, Dayo', 'Harbour sketch', 'emptied, a gap').count()).toBe(0);
  });

  it('moves what was written on an own page to where it belongs, asks first, and undoes it', async () => {
    const { page: student } = await stage.enter('teo.calloway');
    const { page } = await stage.enter('tamsin.orrey');
    await openGaps(page);
    await listOf(page, 'Worked elsewhere')
      .getByRole('button', { name: 'Teo Calloway', exact: true })
      .click();
    await page
      .getByRole('document', { name: 'The other page' })
      .getByText('I see the headland')
      .waitFor();
    await page.getByText('Teo Calloway will get a message that asks what happened.').waitFor();
    await button(page, 'Ask first').click();
    await page.getByText('They were asked.').waitFor();
    await student.goto('/mailbox');
    await student.getByText('A question about Harbour sketch').waitFor();
    await listOf(page, 'Worked elsewhere')
      .getByRole('button', { name: /^Move it here/ })
      .click();
    await page.getByRole('button', { name: 'Move it here', exact: true }).click();
    await page.getByText('The work is where it belongs.').waitFor();
    await student.reload();
    await student.getByText('Moved to where it belongs: Harbour sketch').click();
    await student.getByText('Steps 1.2, crane 2.4').waitFor();
    await student.getByRole('heading', { name: 'Harbour sketch' }).first().waitFor();
    await undo(page);
    await listOf(page, 'Worked elsewhere').waitFor();
    await student.goto(student.url().replace(/\/work\/.*/, '/work'));
    await student.getByRole('link', { name: 'Harbour sketch' }).waitFor();
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
    await listOf(page, 'Removed').getByRole('button', { name: 'Ben Jarrold', exact: true }).click();
    await page.getByText(/^It was removed on .* words stand in it\.$/).waitFor();
    await page.getByRole('button', { name: 'Bring it back', exact: true }).click();
    await page.getByText('The copy is back.').waitFor();
    await link.waitFor();
  });
});
