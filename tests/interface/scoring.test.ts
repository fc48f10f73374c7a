import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { holdBack, useStage } from '../support/stage';

const stage = useStage();
const criterion = (page: Page, title: string) => page.getByRole('radiogroup', { name: title });
const step = (page: Page, title: string, points: string) =>
  criterion(page, title)
    .locator('label')
    .filter({ hasText: new RegExp(`^\\s*${points},`) });
const chosen = (page: Page, title: string) =>
  criterion(page, title).locator('[data-state="checked"]').first().innerText();

/** By its key; where the focus is then. */
async function toFirstLeft(page: Page, title: string) {
  await page.keyboard.press('s');
  await criterion(page, title).locator(':focus').waitFor({ state: 'attached' });
}

/** Opens the marking of Dayo Lomax’s copy, which has not been scored. */
async function openMarking(name: string) {
  const { page } = await stage.enter(name);
  // Which class waits longest, and is named on the desk, depends on the day of the week.
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8C' });
  await board.getByRole('link', { name: 'A light’s character' }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'Lomax, Dayo' });
  await row.getByRole('link').first().click();
  await page.getByRole('heading', { name: 'Dayo Lomax' }).waitFor();
  return page;
}

describe('scoring with a rubric', () => {
  it('goes by mouse and by keys, waits for handing back, and reaches the student who is there', async () => {
    const { page: student } = await stage.enter('dayo.lomax');
    await student.getByRole('link', { name: 'A light’s character' }).first().click();
    const sheet = student.getByRole('region', { name: 'Feedback sheet' });
    await student.getByText('handed in').first().waitFor();
    const page = await openMarking('tamsin.orrey');
    await step(page, 'Character', '4').click();
    await page.getByText('4: Right, and as the light list writes it.').waitFor();
    await page.getByRole('heading', { name: /^Rubric/ }).click();
    // By keys: to the first criterion that is left, a level, a half step more, and back again.
    await toFirstLeft(page, 'Timing');
    await page.keyboard.press('3');
    await expect.poll(() => chosen(page, 'Timing')).toMatch(/^3/);
    await page.keyboard.press('.');
    await expect.poll(() => chosen(page, 'Timing')).toMatch(/^3½/);
    await page.keyboard.press('ArrowRight');
    await expect.poll(() => chosen(page, 'Timing')).toMatch(/^4/);
    await page.keyboard.press('ArrowLeft');
    await page.getByText('7½ of 20 so far, 3 criteria left').waitFor();
    for (const left of ['Reasons', 'Wording', 'Order']) {
      await toFirstLeft(page, left);
      await page.keyboard.press('2');
      await expect.poll(() => chosen(page, left)).toMatch(/^2/);
    }
    // Words come with the descriptors, or with the score.
    await page.getByRole('button', { name: 'Timing' }).click();
    await page.getByLabel('Words on Timing').fill('Count the “dark”, too.');
    await page.getByRole('heading', { name: /^Rubric/ }).click();
    // Whoever goes on has scored.
    await page.keyboard.press(']');
    await page.getByRole('heading', { name: 'Luca Marchetti' }).waitFor();
    await page.keyboard.press('[');
    await page.getByRole('heading', { name: 'Dayo Lomax' }).waitFor();
    await page.getByText('13½ of 20', { exact: true }).waitFor();
    await page.getByText('13½ of 20 by the rubric').waitFor();
    expect(await sheet.count()).toBe(0);
    await page.getByRole('button', { name: 'Hand back' }).click();
    await sheet.getByText('Count the “dark”, too.').waitFor();
    await sheet.getByText('13½ of 20').waitFor();
    await student.getByText('13½ of 20 points').waitFor();
  });

  it('says when two score at once, keeps what both chose, and asks why other points count', async () => {
    const page = await openMarking('tamsin.orrey');
    const { page: bea } = await stage.enter('bea.lindqvist');
    await bea.goto(new URL(page.url()).pathname);
    await step(page, 'Order', '4').click();
    await step(bea, 'Order', '1').click();
    await bea.getByRole('button', { name: 'Save' }).click();
    await bea.getByRole('button', { name: 'Saved' }).waitFor();
    await page.getByText('Somebody else scored this copy meanwhile.').waitFor();
    await expect.poll(() => chosen(page, 'Order')).toMatch(/^4/);
    await page.getByRole('button', { name: 'Save mine over it' }).click();
    await page.getByRole('button', { name: 'Saved' }).waitFor();
    // Hers is not changed, so it follows.
    await expect.poll(() => chosen(bea, 'Order')).toMatch(/^4/);
    await page.getByRole('button', { name: 'Give other points' }).click();
    await page.getByLabel('Points', { exact: true }).fill('19½');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('Please say why other points count').waitFor();
    // What is not saved yet is there when its scorer comes again.
    await page.getByLabel('Why not the rubric’s points').fill('Read aloud at the quay.');
    const again = await page.context().newPage();
    const isThere = async () => {
      await again.goto(page.url());
      const seen = again.getByText('19½ instead').waitFor({ timeout: 5000 });
      return seen.then(
        () => true,
        () => false,
      );
    };
    await expect.poll(isThere).toBe(true);
    await again.getByRole('button', { name: 'Save' }).click();
    await again.getByText('scored 19½').waitFor();
  });

  it('is nobody else’s while one’s own is on its way, and keeps what is chosen meanwhile', async () => {
    const page = await openMarking('tamsin.orrey');
    const meanwhile = page.getByText('Somebody else scored this copy meanwhile.');
    await step(page, 'Order', '3').click();
    const view = await holdBack(page, '**/__data.json*');
    const answer = await holdBack(page, '**/marking', { read: true });
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await answer.asked;
    await step(page, 'Wording', '4').click();
    answer.letGo();
    await view.asked;
    // It is saved, and the view is not read again yet.
    await step(page, 'Reasons', '4').click();
    expect(await meanwhile.count()).toBe(0);
    view.letGo();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByRole('button', { name: 'Saved' }).waitFor();
    await page.reload();
    for (const [title, points] of [
      ['Order', /^3/],
      ['Wording', /^4/],
      ['Reasons', /^4/],
    ] as const)
      await expect.poll(() => chosen(page, title)).toMatch(points);
  });
});

describe('scoring with points alone', () => {
  it('is nobody else’s while one’s own are on their way, and keeps what is typed meanwhile', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: 'Mark: Rule of twelfths' }).click();
    const points = page.getByLabel('Points', { exact: true });
    const save = page.getByRole('button', { name: 'Save', exact: true });
    await points.fill('7');
    const view = await holdBack(page, '**/__data.json*');
    const answer = await holdBack(page, '**/marking', { read: true });
    await save.click();
    await answer.asked;
    await points.fill('8');
    answer.letGo();
    await view.asked;
    expect(await page.getByText('meanwhile').count()).toBe(0);
    view.letGo();
    await save.click();
    await expect.poll(() => save.isEnabled()).toBe(true);
    await page.reload();
    await expect.poll(() => points.inputValue()).toBe('8');
  });
});
