import { PDFDocument } from 'pdf-lib';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';
import { zip } from '../support/zip';

const stage = useStage();
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name });

async function openCollecting(page: Page) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await page.locator('a[href*="/assignments/"]', { hasText: 'Harbour sketch' }).first().click();
  await page.getByRole('link', { name: 'Collect files …' }).click();
  await page.getByRole('heading', { name: 'Collecting · Harbour sketch' }).waitFor();
}
const bring = (page: Page, files: { name: string; mimeType: string; buffer: Buffer }[]) =>
  page.locator('input[type=file]').setInputFiles(files);
const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });
/** Chooses a student in the field that asks whose something is. */
async function say(page: Page, asks: string, student: string) {
  const field = page.getByRole('combobox', { name: asks });
  await field.fill(student.slice(0, 4));
  await page.getByRole('option', { name: student }).click();
}

describe('collecting', () => {
  it('matches a folder’s files, asks about the doubtful, hands in, and the student sees it; and undoes it', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const { page: besides } = await stage.enter('tamsin.orrey');
    await openCollecting(besides);
    await openCollecting(page);
    await row(page, 'strand.md').getByText('only a part of the name').waitFor();
    await bring(page, [
      {
        name: 'More “of” it.zip',
        mimeType: 'application/zip',
        buffer: await zip({
          'Una Ulvik <3>.md': '# From Una',
          'nothing.txt': '',
          'escape.md': 'whose?',
        }),
      },
    ]);
    await page.getByText('Left out: nothing.txt').waitFor();
    await row(page, 'Una Ulvik <3>.md').getByText('by name').waitFor();
    await button(page, 'It is Sunniva Strand’s').click();
    await say(page, 'Whose is escape.md?', 'Jarrold, Ben');
    await row(page, 'escape.md').getByText('said by you').waitFor();
    await button(page, 'Put aside Harbour walk/IMG_2041.md').click();
    await page.getByRole('heading', { name: 'Put aside' }).waitFor();
    // Who collects at another computer sees what came and what was decided.
    await besides.getByRole('heading', { name: 'Put aside' }).waitFor();
    await row(besides, 'escape.md').getByText('said by you').waitFor();
    await button(page, /^Collect \d+ files$/).click();
    await page.getByText(/^\d files collected\.$/).waitFor();
    // Ben had handed his in; what was collected stands beside it.
    await row(page, 'escape.md').getByText('attached', { exact: false }).waitFor();
    await row(page, 'Una Ulvik <3>.md').getByText('handed in with it').waitFor();

    const { page: una } = await stage.enter('una.ulvik');
    await una.getByRole('link', { name: 'Harbour sketch' }).click();
    await button(una, 'Show Una Ulvik <3>.md').click();
    await una.getByRole('document', { name: 'Una Ulvik <3>.md' }).getByText('From Una').waitFor();
    await una
      .getByText(/^handed in/)
      .first()
      .waitFor();

    await button(page, 'Undo collecting Una Ulvik <3>.md').click();
    await row(page, 'Una Ulvik <3>.md').getByText('by name').waitFor();
    await button(una, 'Hand in').waitFor();
    await expect.poll(() => una.getByText('Una Ulvik <3>.md').count()).toBe(0);
  });

  it('cuts a stack of sheets by the cover sheets that it printed, by hand, and by the roster', async () => {
    const { page, context } = await stage.enter('tamsin.orrey');
    await openCollecting(page);
    const at = page.url();
    const printer = await context.newPage();
    await printer.goto(`${at}/sheets`);
    await button(printer, /^Print \d+ sheets$/).waitFor();
    const names = await printer.getByRole('listitem').allInnerTexts();
    // As a printer would have them, in another order, with two sheets of paper behind each.
    const covers = await PDFDocument.load(await printer.pdf({ format: 'A4' }));
    await printer.close();
    const wanted = ['Oona Kestrel', 'Isla Abernathy'];
    const stack = await PDFDocument.create();
    stack.addPage([595, 842]);
    for (const name of wanted) {
      const place = names.findIndex((text) => text.startsWith(name));
      const [cover] = await stack.copyPages(covers, [place]);
      if (cover) stack.addPage(cover);
      stack.addPage([595, 842]);
      stack.addPage([595, 842]);
    }
    await bring(page, [
      { name: 'scan.pdf', mimeType: 'application/pdf', buffer: Buffer.from(await stack.save()) },
    ]);
    await page.getByRole('link', { name: 'Cut to students … scan.pdf' }).click();
    await button(page, 'By cover sheets (2 found)').waitFor();
    const says = page.getByRole('status').filter({ hasText: 'sheets' });
    await says.getByText('2 students get 4 sheets; 1 sheet of nobody yet').waitFor();
    // In another way, and back.
    await button(page, 'In the order of the roster').click();
    await says.getByText('7 students get 7 sheets').waitFor();
    await button(page, 'By cover sheets (2 found)').click();
    await button(page, 'Leave out sheet 4').click();
    await say(page, 'Whose work begins at sheet 1?', 'Rask, Emil');
    await says.getByText('3 students get 4 sheets; 3 left out').waitFor();
    await button(page, 'Cut the stack').click();
    await page.getByText('scan.pdf · was cut into 3 pieces').waitFor();
    await row(page, 'Sheet 3.pdf').getByText('said by you').waitFor();
    await button(page, 'Put together again scan.pdf').click();
    await page.getByRole('link', { name: 'Cut to students … scan.pdf' }).waitFor();
  });

  it('says what a stack is that cannot be shown', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openCollecting(page);
    await bring(page, [
      { name: 'torn.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7 torn') },
    ]);
    await page.getByRole('link', { name: 'Cut to students … torn.pdf' }).click();
    await page.getByText('This PDF is damaged, so it cannot be shown.').waitFor();
  });
});
