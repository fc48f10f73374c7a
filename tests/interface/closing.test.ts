import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { filesBelow, unpack } from '../support/archives';
import { useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow' });

async function download(page: Page): Promise<Buffer> {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Download/ }).click(),
  ]);
  return readFileSync(await file.path());
}
const openClose = async (page: Page, klass: string) => {
  await page
    .getByRole('link', { name: `${klass} Coast & Chart` })
    .first()
    .click();
  await page.getByRole('link', { name: 'Set-up' }).click();
  await page.getByRole('link', { name: 'Close the term …' }).click();
  await page.getByRole('heading', { name: `Close the term of ${klass}` }).waitFor();
};
const row = (page: Page, title: string) => page.getByRole('listitem').filter({ hasText: title });

describe('the end of a term', () => {
  it('is closed by its lead, read by its students, opened elsewhere from its file, and opened again', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('ada.fennick');
    await openClose(page, '8C');

    // What is kept back goes back from here, and its line with it.
    const kept = page.getByRole('heading', { name: 'Points that are kept back' });
    await kept.waitFor();
    await page.getByRole('button', { name: 'Hand back 4: Rule of twelfths' }).click();
    await kept.waitFor({ state: 'detached' });

    // Two units go into the cupboard and out of a student’s sight, live.
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await student.getByRole('heading', { name: 'Lights' }).waitFor();
    await row(page, 'Lights').getByRole('checkbox').check();
    await row(page, 'Shore').getByRole('checkbox').check();
    await page.getByRole('button', { name: 'Into the cupboard' }).click();
    await row(page, 'Lights').getByText('in the cupboard').waitFor();
    await student.getByRole('heading', { name: 'Lights' }).waitFor({ state: 'detached' });
    await row(page, 'Lights').getByRole('checkbox').check();
    await page.getByRole('button', { name: 'Out of the cupboard' }).click();
    await student.getByRole('heading', { name: 'Lights' }).waitFor();

    await page.getByRole('button', { name: /^Archive 8C, and leave \d+ things/ }).click();
    await page.getByRole('heading', { name: 'The archive of 8C' }).waitFor();
    const zip = await download(page);

    // A student who stands in the class is told, and finds their own work, to be read.
    await student.getByRole('link', { name: 'My work' }).click();
    await student.getByRole('heading', { name: 'Classes that have ended' }).waitFor();
    await student.getByRole('link', { name: '8C Coast & Chart' }).click();
    await student.getByRole('link', { name: 'Chart symbols' }).click();
    await student.getByText('To read.', { exact: true }).waitFor();
    expect(await student.locator('.ProseMirror[aria-readonly="false"]').count()).toBe(0);
    await student.goBack();
    await student.getByRole('button', { name: 'Make the file' }).click();
    const home = await unpack(await download(student));
    expect([...filesBelow(join(home, 'data')).keys()].join('\n')).toContain(
      'students/Fennick, Ada/Chart symbols.html',
    );
    expect([...filesBelow(home).values()].map(String).join('')).not.toContain('Abernathy');

    // Its staff read on, and change nothing.
    await page.getByRole('link', { name: 'Gradebook' }).click();
    await page.getByRole('button', { name: /^Fennick, Ada, Chart symbols:/ }).click();
    await page.getByRole('heading', { name: 'Ada Fennick' }).waitFor();
    expect(await page.getByRole('button', { name: /Save|Hand back|Add comment/ }).count()).toBe(0);

    // A colleague opens the file, reads the class, and sees its comments and points.
    const { page: idris } = await stage.enter('idris.halvorsen');
    await idris.getByRole('link', { name: 'Open an archive' }).click();
    await idris
      .locator('input[type=file]')
      .setInputFiles({ name: '8C.zip', mimeType: 'application/zip', buffer: zip });
    await idris.getByText('is open to be read').waitFor();
    await idris.getByRole('link', { name: '8C Coast & Chart' }).click();
    await idris.getByRole('link', { name: 'Board' }).click();
    await idris.getByRole('link', { name: 'Abernathy, Isla' }).waitFor();
    expect(await idris.getByRole('link', { name: 'Hand out something' }).count()).toBe(0);

    // Its lead opens it again, and the student writes on.
    await page.getByRole('link', { name: '8C Coast & Chart' }).click();
    await page.getByRole('link', { name: 'Archive', exact: true }).click();
    await page.getByRole('button', { name: 'Open 8C again' }).click();
    await page.getByRole('link', { name: 'Hand out something' }).waitFor();
    await student.getByRole('link', { name: 'My work' }).click();
    await student.getByRole('heading', { name: 'Next' }).waitFor();
  });

  it('has pages that open in a browser without network: text, answers, comments', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openClose(page, '8B');
    await page.getByRole('button', { name: /^Archive 8B/ }).click();
    const bag = await unpack(await download(page));
    const context = page.context();
    await context.setOffline(true);
    const reader = await context.newPage();
    const asked: string[] = [];
    reader.on('request', (request) => asked.push(request.url()));
    await reader.goto(`file://${encodeURI(join(bag, 'data/index.html'))}`);
    await reader
      .getByRole('link', { name: / of 10$/ })
      .first()
      .click();
    await reader.getByRole('heading', { name: 'Rule of twelfths' }).waitFor();
    await reader.getByRole('heading', { name: 'Feedback sheet' }).waitFor();
    expect(asked.filter((url) => !url.startsWith('file:'))).toEqual([]);
    expect(await reader.locator('script').count()).toBe(0);
  });

  it('refuses a file that is none, with a sentence, and goes on', async () => {
    const { page } = await stage.enter('idris.halvorsen');
    await page.getByRole('link', { name: 'Open an archive' }).click();
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no') });
    await page.getByText('This is no zip archive, or it is damaged.').waitFor();
  });
});
