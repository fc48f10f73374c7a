import type { Page, Route } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

/** Opens a menu and presses one of its commands. */
async function choose(page: Page, menu: string | RegExp, command: string) {
  await page.getByRole('button', { name: menu }).first().click();
  const chosen = page
    .getByRole('button', { name: command, exact: true })
    .or(page.getByRole('link', { name: command, exact: true }));
  await chosen.first().click();
}
/** What the server says of a view now. */
const asked = async (page: Page, path: string) =>
  (await page.request.get(`${path}/__data.json`)).text();

async function openCourse() {
  const { page } = await stage.enter('tamsin.orrey');
  await page.goto('/courses');
  await page.getByRole('link', { name: 'Coast & Chart' }).click();
  await page.waitForURL('**/courses/*');
  return { page, path: new URL(page.url()).pathname };
}

describe('every command of every menu does what it says', () => {
  it('in a course: of a page, and of a unit', async () => {
    const { page, path } = await openCourse();
    await page.getByLabel('Title of a new page in The tide').fill('Menu page');
    await page.getByRole('button', { name: 'Create in The tide' }).click();
    await page.getByRole('textbox', { name: 'Menu page, the original' }).waitFor();
    await page.goto(path);
    const menu = 'More about Menu page';
    const settled = (text: string | RegExp) => expect.poll(() => asked(page, path)).toMatch(text);
    await choose(page, menu, 'Add a note');
    await page.getByLabel('A note for staff').fill('Shorter next year');
    await page.getByRole('button', { name: 'Save note' }).click();
    await settled(/Shorter next year/);
    await page.goto(path);
    await choose(page, menu, 'Adapt for some students');
    await settled(/Menu page, adapted/);
    await page.goto(path);
    // An original can be handed out, a reading has no such button in its course.
    const handsOut = async () => {
      await page.goto(path);
      await page.getByRole('button', { name: menu, exact: true }).waitFor();
      return page.getByRole('button', { name: 'Hand out: Menu page', exact: true }).count();
    };
    expect(await handsOut()).toBe(1);
    await choose(page, menu, 'Make it a reading');
    await expect.poll(handsOut).toBe(0);
    await choose(page, menu, 'Make it an original');
    await expect.poll(handsOut).toBe(1);
    await choose(page, menu, 'Remove');
    await page.getByText(/^Removed/).waitFor();
    await page.getByLabel('Title of a new unit').fill('Menu unit');
    await page.keyboard.press('Enter');
    await settled(/Menu unit/);
    await page.goto(path);
    await choose(page, 'More about the unit Menu unit', 'Remove unit');
    await page
      .getByRole('button', { name: 'More about the unit Menu unit' })
      .waitFor({ state: 'detached' });
    // It comes back from where it is kept.
    await page.getByText(/^Removed/).click();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Menu unit' })
      .getByRole('button', { name: 'Restore' })
      .click();
    await page.getByRole('button', { name: 'More about the unit Menu unit' }).waitFor();
  });

  it('in the plan of a class: where a page lies, and away with it', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    await page.getByRole('button', { name: /^More about Words we found/ }).waitFor();
    const path = new URL(page.url()).pathname;
    const { page: student } = await stage.enter('ada.fennick');
    const sees = async () => (await asked(student, path)).includes('Words we found');
    expect(await sees()).toBe(true);
    await choose(page, /^More about Words we found/, 'Into the cupboard');
    await expect.poll(sees).toBe(false);
    await page.goto(path);
    await choose(page, /^More about Words we found/, 'To the worktable');
    await expect.poll(sees).toBe(true);
    await page.goto(path);
    await choose(page, /^More about Words we found/, 'Remove');
    await expect.poll(sees).toBe(false);
  });

  it('and leaves what is opened meanwhile open', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Plan', exact: true }).click();
    const sent = new Promise<Route>((held) => page.route(/\?\/area$/, held));
    await choose(page, /^More about How a light/, 'Into the cupboard');
    await page.getByRole('button', { name: /^More about Depths along the quay/ }).click();
    await page.getByRole('button', { name: 'To the shelf' }).waitFor();
    await (await sent).continue();
    await page.getByText('in the cupboard: staff only').nth(1).waitFor();
    expect(await page.getByRole('button', { name: 'To the shelf' }).count()).toBe(1);
  });

  it('in an assignment: more time, excused, as for all', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page
      .getByRole('region', { name: 'Board of 8C' })
      .getByRole('link', { name: 'Harbour sketch' })
      .click();
    await page.getByRole('button', { name: 'More about Tarn, Tomas' }).waitFor();
    const path = new URL(page.url()).pathname;
    await choose(page, 'More about Tarn, Tomas', 'Excuse');
    await expect.poll(() => asked(page, path)).toContain('excused');
    await page.getByText('excused').first().waitFor();
    await page.goto(path);
    const answered = page.waitForResponse((answer) => answer.request().method() === 'POST');
    await choose(page, 'More about Tarn, Tomas', 'Remove exception');
    await answered;
    await page.goto(path);
    await choose(page, 'More about Tarn, Tomas', 'Extension …');
    await page.getByRole('button', { name: 'Save', exact: true }).first().waitFor();
  });

  it('of the school: new passwords, and accounts that are disabled and enabled', async () => {
    const { page } = await stage.enter('sol.petrakis');
    const { page: bea, context } = await stage.enter('bea.lindqvist');
    const isIn = async () => (await bea.request.get('/desk', { maxRedirects: 0 })).status() === 200;
    expect(await isIn()).toBe(true);
    await choose(page, 'More about Bea Lindqvist', 'Disable the account');
    await expect.poll(isIn).toBe(false);
    await page.goto('/school');
    await choose(page, 'More about Bea Lindqvist', 'Enable the account');
    await page.getByText('bea.lindqvist, disabled').waitFor({ state: 'detached' });
    await choose(page, 'More about Bea Lindqvist', 'New password');
    await page.getByText('New passwords, shown this once').waitFor();
    const password = await page
      .locator('section[aria-labelledby="passwords"] td')
      .last()
      .innerText();
    await context.clearCookies();
    await bea.goto('/sign-in');
    await bea.getByRole('textbox', { name: 'Name' }).fill('bea.lindqvist');
    await bea.getByLabel('Password').fill(password);
    await bea.getByRole('button', { name: 'Sign in', exact: true }).click();
    await bea.waitForURL('**/desk');
    // The account's own menu: a new password, and the session elsewhere ended.
    await choose(bea, /your menu/, 'Account');
    await bea.getByLabel('Current password').fill(password);
    await bea.getByLabel(/^New password/).fill('tide-tables-for-all');
    await bea.getByRole('button', { name: 'Change password' }).click();
    await bea.getByText('Your password is changed').waitFor();
  });

  it('of a roster: a new password for a student, who is signed out everywhere', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('emil.rask');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Roster' }).click();
    await choose(page, 'More about Emil Rask', 'New password');
    await page.getByText('New passwords, shown this once').waitFor();
    await expect
      .poll(async () => (await student.request.get('/work', { maxRedirects: 0 })).status())
      .toBe(401);
    await choose(page, 'More about Emil Rask', 'Open the workbook');
    await page.waitForURL('**/workbook/*');
  });

  it('of oneself: light or dark', async () => {
    const { page } = await stage.enter('ada.fennick');
    await choose(page, /your menu/, 'Light or dark');
    expect(await page.locator('html').getAttribute('data-light')).toBe('dark');
  });
});
