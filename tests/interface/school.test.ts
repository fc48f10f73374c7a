import type { Server } from 'node:http';
import type { Page } from 'playwright-core';
import { afterAll, describe, expect, it } from 'vitest';
import { freePort } from '../../scripts/lib/cluster.mjs';
import { officeServer } from '../../standins/office/office';
import { officeRecords } from '../../standins/office/records';
import { giveFiles, pick } from '../support/fields';
import { useStage } from '../support/stage';

let office: Server | null = null;
const open = async () => {
  const port = await freePort();
  const client = { id: 'uncia', secret: 'a secret' };
  office = officeServer(officeRecords('2026-10-14'), client, Date.now);
  await new Promise<void>((resolve) => office?.listen(port, '127.0.0.1', resolve));
  return {
    OFFICE_URL: `http://127.0.0.1:${port}/`,
    OFFICE_CLIENT_ID: client.id,
    OFFICE_CLIENT_SECRET: client.secret,
  };
};
const shut = () => {
  office?.close();
  office?.closeAllConnections();
};
const stage = useStage(open);
afterAll(shut);
const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();

describe('the school’s calendar', () => {
  it('is written by the office, and says what cannot be', async () => {
    const { page } = await stage.enter('sol.petrakis');
    await page.goto('/school/calendar');
    const enter = async (kind: string, name: string, starts: string, ends: string) => {
      await page.getByLabel(`Name of another ${kind}`).fill(name);
      await page.getByLabel(`Another ${kind} begins`).fill(starts);
      await page.getByLabel(`Another ${kind} ends`).fill(ends);
      await page.getByRole('button', { name: `Add another ${kind}` }).click();
    };
    await enter('term', 'Far term', '2031-02-10', '2031-01-10');
    await sees(page, 'The term ends before it begins.');
    await enter('term', 'Far term', '2031-01-06', '2031-02-14');
    await page.getByRole('region', { name: 'Weeks of Far term' }).waitFor();
    await sees(page, '6 weeks');
    await enter('holiday', 'Candlemas', '2031-02-03', '2031-02-07');
    const weeks = page.getByRole('region', { name: 'Weeks of Far term' });
    await weeks.locator('li[title="0 school days"]').waitFor();
    await page.getByLabel('Candlemas ends').fill('2031-02-04');
    await page.getByRole('button', { name: 'Save Candlemas' }).click();
    await weeks.locator('li[title="3 school days"]').waitFor();
    await page.getByRole('button', { name: 'Remove Candlemas' }).click();
    await page.getByLabel('Name of Candlemas').waitFor({ state: 'detached' });
    await pick(page, 'The school’s clock', 'Europe/Oslo');
    await sees(page, 'The school’s clock is changed.');
    await page.getByLabel('No e-mail from').fill('1730');
    await page.getByRole('button', { name: 'Save quiet hours' }).click();
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const quiet = teacher.getByRole('option', { name: /not from 17:30 to 07:00$/ });
    await expect
      .poll(async () => {
        await teacher.goto('/mailbox');
        return quiet.count();
      })
      .toBe(1);
    await page.goto('/school');
    await sees(page, 'All times are of Europe/Oslo.');
  });
});

describe('a course that is shared', () => {
  it('is used, then written by a colleague, and then no longer seen', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const { page: colleague } = await stage.enter('bea.lindqvist');
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await page.getByRole('heading', { name: 'Coast & Chart', level: 1 }).waitFor();
    const address = new URL(page.url()).pathname;
    const seen = async () => (await colleague.request.get(address)).status();
    expect(await seen()).toBe(404);
    await page
      .getByText(/Shared|Share/)
      .first()
      .click();
    await pick(page, 'A colleague', 'Bea Lindqvist');
    await page.getByRole('button', { name: 'Share', exact: true }).click();
    await page.getByLabel('What Bea Lindqvist may do').waitFor();
    await colleague.goto(address);
    await colleague.getByRole('link', { name: 'Harbour sketch', exact: true }).waitFor();
    expect(await colleague.getByRole('button', { name: 'Another unit' }).count()).toBe(0);
    await page.getByLabel('What Bea Lindqvist may do').selectOption('may write in it');
    await expect
      .poll(async () => {
        await colleague.goto(address);
        return colleague.getByLabel(/^Move Harbour sketch/).count();
      })
      .toBeGreaterThan(0);
    await page.getByLabel('What Bea Lindqvist may do').selectOption('no part in it');
    await expect.poll(seen).toBe(404);
  });
});

describe('curriculum codes', () => {
  it('are read from a list, put on pages, and show what is covered', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await page.getByRole('link', { name: 'Codes' }).click();
    const read = (text: string) =>
      giveFiles(page, 'Import a list', { name: 'sea.csv', contents: text });
    await read('statement only\nnothing\n');
    await page.getByRole('alert').waitFor();
    await read('code,statement,parent\nSEA.1,Reads a chart,\nSEA.1.a,Names its signs,SEA.1\n');
    await sees(page, '2 codes are here now.');
    const line = page.getByRole('treeitem').filter({ hasText: 'Names its signs' }).last();
    await line.getByText('not covered').waitFor({ state: 'attached' });
    // By keyboard alone: from the code over it, and down.
    await page.getByRole('treeitem').getByText('Reads a chart').click();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    const places = page.getByRole('region', { name: 'Where the code stands' });
    await places.getByRole('heading', { name: 'SEA.1.a' }).waitFor();
    await places.getByLabel('Chart symbols', { exact: true }).check();
    await line.getByText(', covered').waitFor({ state: 'attached' });
    // What went out to three classes stands there once.
    const saved = page.waitForResponse((answer) => answer.request().method() === 'PUT');
    await places.getByLabel('Harbour sketch, handed out in 8A, 8B and 8C').check();
    await saved;
    await page.reload();
    await line.click();
    expect(
      await places
        .getByRole('checkbox', { checked: true })
        .evaluateAll((all) => all.map((one) => one.closest('label')?.textContent.trim())),
    ).toEqual(['Chart symbols', 'Harbour sketch, handed out in 8A, 8B and 8C']);
    await page.getByText('Not covered', { exact: true }).click();
    await line.waitFor({ state: 'detached' });

    // Read again it is brought up to date, not doubled; what carried a code carries it still.
    await page.getByText('All', { exact: true }).click();
    await read(
      'code,statement,parent\nSEA.1,Reads a chart well,\nSEA.1.a,Names its signs,SEA.1\nSEA.2,Sails,SEA.9\n',
    );
    await sees(page, '1 code would be new and 1 code would say something else');
    await page.getByRole('button', { name: 'Bring it up to date' }).click();
    await sees(page, /Skipped: what “SEA.2” stands under, which the file does not have\./);
    await page.getByRole('treeitem').getByText('Reads a chart well').waitFor();
    await line.getByText(', covered').waitFor({ state: 'attached' });
    expect(await page.getByRole('treeitem').filter({ hasText: 'SEA.2' }).count()).toBe(1);
    await page.getByRole('button', { name: 'Remove this list' }).last().click();
    await page.getByText('Reads a chart well').waitFor({ state: 'detached' });
    await page.getByText('Removed · 1').click();
    await page.getByRole('button', { name: 'Restore' }).click();
    await page.getByRole('treeitem').getByText('Reads a chart well').waitFor();
  });
});

describe('the staff of a class', () => {
  it('is added to, changed, and never without a lead', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Set-up' }).click();
    const staff = page.getByRole('region', { name: 'Staff' });
    await pick(staff, 'A colleague', 'Idris Halvorsen');
    await staff.getByLabel('What the colleague does').selectOption('teaches it too');
    await staff.getByRole('button', { name: 'Add' }).click();
    await page.getByLabel('What Idris Halvorsen does').waitFor();
    await page.getByLabel('What Tamsin Orrey does').selectOption('looks and marks');
    await page.getByRole('alert').waitFor();
    const { page: colleague } = await stage.enter('idris.halvorsen');
    await colleague.getByRole('link', { name: '8C Coast & Chart' }).first().waitFor();
    await page.getByLabel('What Idris Halvorsen does').selectOption('no longer');
    await page.getByLabel('What Idris Halvorsen does').waitFor({ state: 'detached' });
    expect((await colleague.request.get(new URL(page.url()).pathname)).status()).toBe(404);
  });
});

describe('the office’s roster', () => {
  it('is asked for, applied and undone; with the office away nothing changes', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Roster' }).click();
    await page.getByRole('button', { name: 'Ask the office' }).click();
    await page.getByLabel(/Which of the office’s classes/).selectOption('Geography 8C (8C)');
    await sees(page, '5 lines would change; 20 students stay as they are.');
    await page.getByLabel('Who is Hesper-Vane, June?').selectOption('Hesper, June, renamed');
    await page.getByRole('button', { name: 'Save these 5 changes' }).click();
    await sees(page, '5 changes are made. They can be undone below.');
    await sees(page, 'In the class · 24');
    await sees(page, /from the office/);
    await page.getByRole('button', { name: 'Ask the office' }).click();
    await sees(page, 'Nothing would change; 24 students stay as they are.');
    await page.getByRole('button', { name: 'Undo' }).click();
    await sees(page, 'In the class · 23');
    shut();
    await page.getByRole('button', { name: 'Ask the office' }).click();
    await sees(page, 'The office’s system does not answer just now.');
    await sees(page, 'In the class · 23');
  });
});
