import { describe, expect, it } from 'vitest';
import { giveFiles } from '../support/fields';
import { useStage } from '../support/stage';

const stage = useStage();

describe('a phrasebook', () => {
  it('is written, imported and shared; a comment takes from it by keys, misspelt and with its blanks filled in', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('button', { name: /your menu/ }).click();
    await page.getByRole('link', { name: 'Phrasebook' }).click();
    await page.getByRole('heading', { name: 'Phrasebook' }).waitFor();
    await page.getByLabel('New phrase').fill('{name}, mind the bearings in {work}: "{words}"');
    await page.getByLabel('Shared with').selectOption({ label: 'colleagues of Coast & Chart' });
    await page.getByRole('button', { name: 'Add phrase' }).click();
    const added = page
      .getByRole('listitem')
      .filter({ hasText: '{name}, mind the bearings in {work}' });
    await added.getByText('not used yet · shared with colleagues of Coast & Chart').waitFor();
    await giveFiles(page, 'Import a .csv file', {
      name: 'phrases.csv',
      contents: Buffer.from('phrase\nShow your units.\nShow your units.\n"Two\nlines"\n'),
    });
    await page.getByText('2 phrases added. Skipped: line 3 is there twice.').waitFor();
    const row = page.getByRole('listitem').filter({ hasText: 'Show your units.' });
    await row.getByRole('button', { name: 'Remove' }).click();
    await page.getByText('Removed · 1').click();
    await page.getByRole('button', { name: 'Restore' }).click();
    await row.waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Export .csv' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('Phrasebook.csv');

    await page.goto('/');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    const board = page.getByRole('region', { name: 'Board of 8C' });
    await board.getByRole('link', { name: 'A light’s character' }).click();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Lomax, Dayo' })
      .getByRole('link')
      .first()
      .click();
    await page.getByRole('heading', { name: 'Dayo Lomax' }).waitFor();
    const box = page.getByRole('textbox', { name: /^On the whole copy/ });
    await box.fill('unots');
    const list = page.getByRole('list', { name: 'From your phrasebook' });
    await list.getByText('Show your units.').waitFor();
    await box.fill('mind the berings');
    await list.getByText('Dayo, mind the bearings in A light’s character').waitFor();
    await box.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect
      .poll(() => box.inputValue())
      .toBe('Dayo, mind the bearings in A light’s character: "{words}"');
    await box.fill('A new one, to be saved');
    await box.press('Alt+p');
    await page.getByText('Saved in your phrasebook.').waitFor();
    await box.press('Control+Enter');
    await page
      .getByRole('article', { name: /^Comment/ })
      .getByText('A new one, to be saved')
      .waitFor();
    await page.goto('/phrasebook');
    await added.getByText('used 1 time').waitFor();
    await page.getByRole('button', { name: 'Change “A new one, to be saved”' }).click();
    await page.getByLabel('Phrase', { exact: true }).fill('A new one, changed');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('A new one, changed').waitFor();
    // A colleague of the course has what is shared, and nothing else; and cannot change it.
    const { page: colleague } = await stage.enter('idris.halvorsen');
    await colleague.goto('/phrasebook');
    await colleague
      .getByRole('listitem')
      .filter({ hasText: '{name}, mind the bearings in {work}' })
      .getByText('from Ms Orrey · shared with colleagues of Coast & Chart')
      .waitFor();
    expect(await colleague.getByText('Show your units.').count()).toBe(0);
    expect(await colleague.getByRole('button', { name: /^Change/ }).count()).toBe(0);
  });
});
