import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();
const cell = (page: Page, student: string, title: string) =>
  page.getByRole('button', { name: new RegExp(`^${student}, ${title}:`) });
const total = (page: Page, student: string) =>
  page.getByRole('row').filter({ hasText: student }).getByRole('cell').last().innerText();

async function openGradebook(name: string) {
  const { page } = await stage.enter(name);
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await page.getByRole('link', { name: 'Gradebook' }).click();
  await page.getByRole('region', { name: 'Gradebook of 8C' }).waitFor();
  return page;
}

describe('the gradebook', () => {
  it('takes points by keys, counts them once they are handed back, and so does the student’s own line', async () => {
    const { page: student } = await stage.enter('ben.jarrold');
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await student.getByRole('link', { name: 'My points' }).click();
    const own = student.getByRole('listitem').filter({ hasText: 'Rule of twelfths' });
    await own.getByText('no points yet').waitFor();
    const page = await openGradebook('tamsin.orrey');
    const before = await total(page, 'Jarrold, Ben');
    const twelfths = cell(page, 'Jarrold, Ben', 'Rule of twelfths');
    await twelfths.focus();
    await page.keyboard.type('many');
    await page.keyboard.type('4½x');
    await page.keyboard.press('Enter');
    await page.getByText('“4½x” is no number of points').waitFor();
    await page.keyboard.press('Backspace');
    await page.keyboard.press('Enter');
    await page
      .getByRole('button', { name: 'Jarrold, Ben, Rule of twelfths: 4½ of 10, kept back' })
      .waitFor();
    // Enter goes down, as the arrows do.
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label')))
      .toMatch(/^Kestrel, Oona, Rule of twelfths/);
    expect(await total(page, 'Jarrold, Ben')).toBe(before);
    await page.getByRole('button', { name: /^Rule of twelfths/ }).click();
    await page.getByText(/copies have points that are kept back/).waitFor();
    await page.getByRole('button', { name: /^Hand back \d+$/ }).click();
    await page
      .getByRole('button', { name: 'Jarrold, Ben, Rule of twelfths: 4½ of 10', exact: true })
      .waitFor();
    await own.getByText('4½ of 10').waitFor();
    const now = await total(page, 'Jarrold, Ben');
    expect(now).not.toBe(before);
    await student.getByText(now).first().waitFor();
  });

  it('says when marking gave points meanwhile, and keeps what was typed', async () => {
    const page = await openGradebook('tamsin.orrey');
    const bea = await openGradebook('bea.lindqvist');
    const pilot = cell(page, 'Abernathy, Isla', 'Pilot book page');
    await pilot.click();
    await page.keyboard.type('11');
    await cell(bea, 'Abernathy, Isla', 'Pilot book page').click();
    await bea.keyboard.type('9');
    await bea.keyboard.press('Enter');
    await bea.getByRole('button', { name: /^Abernathy, Isla, Pilot book page: 9 of 15/ }).waitFor();
    await page.keyboard.press('Enter');
    await page
      .getByText(/scored this copy just now: 9 points\. What you typed is still here/)
      .waitFor();
    expect(await page.getByLabel('Points: Abernathy, Isla, Pilot book page').inputValue()).toBe(
      '11',
    );
    await page.keyboard.press('Enter');
    await bea
      .getByRole('button', { name: /^Abernathy, Isla, Pilot book page: 11 of 15/ })
      .waitFor();
    // A shared copy's points are everybody's who shares it.
    await bea
      .getByRole('button', { name: /Pilot book page: 11 of 15/ })
      .nth(1)
      .waitFor();
  });

  it('keeps what came in while it was being read again, though the reading is older', async () => {
    const page = await openGradebook('tamsin.orrey');
    const bea = await openGradebook('bea.lindqvist');
    let release: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    // Once for the change that is made here, and once for the news of it.
    let readings = 0;
    await page.route(/gradebook\/__data\.json/, async (route) => {
      const response = await route.fetch();
      readings++;
      await held;
      await route.fulfill({ response });
    });
    await page.getByRole('button', { name: /^Chart symbols/ }).click();
    await page
      .getByRole('radiogroup', { name: 'In the total' })
      .getByText('Does not count')
      .click();
    await expect.poll(() => readings).toBe(2);
    await cell(bea, 'Jarrold, Ben', 'Pilot book page').click();
    await bea.keyboard.type('8');
    await bea.keyboard.press('Enter');
    const given = page.getByRole('button', { name: /^Jarrold, Ben, Pilot book page: 8 of 15/ });
    await given.waitFor();
    release();
    await page.getByRole('button', { name: /^Chart symbols of 12, not counted/ }).waitFor();
    expect(await given.count()).toBe(1);
  });

  it('counts as the class says, with a word on weights that are not a hundred', async () => {
    const page = await openGradebook('tamsin.orrey');
    await page.getByRole('button', { name: 'Change …' }).click();
    await page.getByLabel('Weight').last().fill('50');
    await page
      .getByText('The weights add up to 90, not 100. Each counts as its share of 90.')
      .waitFor();
    await page
      .getByRole('radiogroup', { name: 'What is missing' })
      .getByText('does not count')
      .click();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Tasks 40 %, Tests 50 %; missing does not count').waitFor();
    await page.getByText('The weights of this class add up to 90, not 100.').waitFor();
    await page.getByRole('button', { name: 'Fennick, Ada', exact: true }).click();
    await page.getByText('Ada sees this sum, too.').waitFor();
    await page.getByRole('button', { name: /^Chart symbols/ }).click();
    const [all = ''] = (await page.getByText(/have points, from/).innerText()).split(' ');
    expect(Number(all)).toBeGreaterThan(15);
    await page
      .getByRole('radiogroup', { name: 'In the total' })
      .getByText('Does not count')
      .click();
    await page.getByRole('button', { name: /^Chart symbols of 12, not counted/ }).waitFor();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download the gradebook' }).click();
    await page.getByRole('link', { name: 'Table, .csv' }).click();
    expect((await download).suggestedFilename()).toBe('8C Coast & Chart, gradebook.csv');
  });
});
