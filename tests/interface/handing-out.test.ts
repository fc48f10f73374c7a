import type { Locator, Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { fillMoment, pick } from '../support/fields';
import { tooWide } from '../support/too-large';
import { useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow' });
const GOES_OUT = 'Goes out; at once, if empty';
const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();
const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name, exact: true });

/** The form that hands a page out in 8C. */
async function fill(page: Page, original: string, title: string) {
  await page.goto('/courses');
  await page.getByRole('link', { name: 'Coast & Chart' }).click();
  await page.getByRole('button', { name: new RegExp(`^Hand out: ${original}`) }).click();
  await page.getByRole('link', { name: 'In 8C' }).click();
  await page.getByLabel('Title', { exact: true }).fill(title);
}
/** Hands out, and once more where the same people had the same page before. */
async function handOutNow(page: Page) {
  await button(page, 'Hand out now').click();
  const [once, done] = [
    button(page, 'Hand it out once more'),
    page.getByRole('heading', { name: /^8C Coast/ }),
  ];
  await once.or(done).first().waitFor();
  if (await once.isVisible()) await once.click();
}
/** What is said above a long form is seen by whoever pressed its button. */
const isInSight = (one: Locator) =>
  expect
    .poll(() =>
      one.evaluate((element) => {
        const { left, top } = element.getBoundingClientRect();
        return element.contains(document.elementFromPoint(left + 5, top + 5));
      }),
    )
    .toBe(true);
const board = (page: Page) => page.getByRole('heading', { name: '8C Coast & Chart' }).waitFor();
async function openAssignment(page: Page, title: string) {
  await page.goto('/desk');
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await page
    .getByRole('region', { name: 'Board of 8C' })
    .getByRole('link', { name: title })
    .click();
  await page.getByRole('heading', { name: title, level: 1 }).waitFor();
}

describe('a page for each group', () => {
  it('is written together, then changed to one each as it stood, and back', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: ada } = await stage.enter('ada.fennick');
    const { page: dayo } = await stage.enter('dayo.lomax');
    await fill(teacher, 'Beach profile', 'Beach by crews');
    await teacher.getByText('One per group', { exact: true }).click();
    await sees(teacher, '6 pages');
    await sees(teacher, 'one for each group in 8C, for 23 students.');
    await pick(teacher, 'Which student', 'Dayo Lomax (8C)');
    await sees(teacher, /Dayo Lomax · 8C/);
    await sees(teacher, 'Eider');
    await handOutNow(teacher);
    await board(teacher);

    await ada.getByRole('link', { name: /Beach by crews/ }).click();
    await sees(ada, /with .*Dayo Lomax/);
    await ada.locator('.answer-number').first().click();
    await ada.keyboard.type('12');
    await sees(ada, 'everything is saved');
    await dayo.getByRole('link', { name: /Beach by crews/ }).click();
    await dayo.locator('.answer-number', { hasText: '12' }).waitFor();
    await dayo.locator('.answer-writing').first().click();
    await dayo.keyboard.type('The storms take it.');
    await ada.locator('.answer-writing', { hasText: 'The storms take it.' }).waitFor();
    await teacher
      .getByRole('button', { name: /^Fennick, Ada, Beach by crews: \d of 3.*shared by/ })
      .waitFor();

    await openAssignment(teacher, 'Beach by crews');
    await teacher.getByRole('link', { name: 'Change …' }).click();
    await sees(teacher, 'Nothing changes.');
    await teacher.getByText('One each', { exact: true }).click();
    await sees(teacher, /begins? as the shared page stands now/);
    await button(teacher, 'Save this change').click();
    await sees(teacher, 'What changed');
    await ada.goto('/work');
    await ada.getByRole('link', { name: /Beach by crews.*unopened/ }).click();
    await ada.locator('.answer-writing', { hasText: 'The storms take it.' }).waitFor();
    await ada.locator('.answer-writing').first().click();
    await ada.keyboard.press('End');
    await ada.keyboard.type(' Mine.');
    await sees(ada, 'everything is saved');
    await button(teacher, 'Undo').click();
    await sees(teacher, /, undone/);
    await ada.goto('/work');
    expect(await ada.getByRole('link', { name: /Beach by crews/ }).count()).toBe(2);
  });
});

describe('a page for all', () => {
  it('is handed in once each has said that they are done', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: ada } = await stage.enter('ada.fennick');
    const { page: dayo } = await stage.enter('dayo.lomax');
    await fill(teacher, 'Beach profile', 'What we both found');
    await teacher.getByText('One for all', { exact: true }).click();
    await teacher.getByLabel('Handed in').selectOption('each');
    await teacher.getByRole('button', { name: 'only some' }).click();
    for (const name of ['Ada Fennick', 'Dayo Lomax']) await teacher.getByLabel(name).check();
    await sees(teacher, 'with the last of them it is handed in.');
    await handOutNow(teacher);
    await board(teacher);
    const cell = (name: string, says: string) =>
      teacher.getByRole('button', { name: `${name}, What we both found: ${says}` }).waitFor();
    const done = async (page: Page) => {
      await button(page, 'I am done').click();
      await page.getByRole('dialog').getByRole('button', { name: 'I am done' }).click();
      await sees(page, 'you said that you are done');
    };

    await ada.getByRole('link', { name: /What we both found/ }).click();
    await done(ada);
    await cell('Fennick, Ada', 'done');
    await dayo.getByRole('link', { name: /What we both found/ }).click();
    await cell('Lomax, Dayo', 'opened');
    // It is still with them: the other writes, and the first thinks again.
    await dayo.locator('.answer-writing').first().click();
    await dayo.keyboard.type('The berm moved.');
    await ada.locator('.answer-writing', { hasText: 'The berm moved.' }).waitFor();
    await button(ada, 'Take back').click();
    await cell('Fennick, Ada', '0 of 3');
    await done(ada);
    await done(dayo);
    await cell('Fennick, Ada', 'handed in');
    await cell('Lomax, Dayo', 'handed in');
    await sees(teacher, /\d+ to mark/);
    await openAssignment(teacher, 'What we both found');
    await teacher.getByRole('link', { name: 'Change …' }).click();
    await teacher.getByLabel('Handed in').selectOption('for all');
    await sees(teacher, 'One of those who share it will hand it in for all.');
  });
});

describe('a hand-out', () => {
  it('is kept as a draft, finished, planned for a time, and put away', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await fill(page, 'Rule of twelfths', 'Half done');
    await page.getByLabel('Instructions').fill('With the tables of the harbour.');
    await button(page, 'Save as draft').click();
    await sees(page, 'Saved as a draft.');
    const list = page.url().split('?')[0] ?? '';
    await page.goto(list);
    await page.getByRole('link', { name: /^Half done/ }).click();
    expect(await page.getByLabel('Instructions').inputValue()).toBe(
      'With the tables of the harbour.',
    );
    await fillMoment(page, GOES_OUT, '1/1/2020', '8');
    await page.getByRole('button', { name: /^Hand out on/ }).click();
    await sees(page, 'This time has passed.');
    await fillMoment(page, GOES_OUT, '5 Jan 2099', '0800');
    await sees(page, 'It goes out on Monday 5 January, 08:00.');
    await page.getByRole('button', { name: /^Hand out on Monday/ }).click();
    await button(page, 'Hand it out once more').click();
    await page.getByRole('link', { name: /^Half done goes out/ }).waitFor();
    await page.goto('/desk');
    await page.getByRole('link', { name: /^Check: Half done goes out/ }).waitFor();
    await page.goto(list);
    await button(page, 'Delete Half done').click();
    await page.getByRole('link', { name: /^Half done goes out/ }).waitFor({ state: 'detached' });
  });

  it('stays as it is filled in over a reload, and asks before the same people get it twice', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await fill(page, 'Rule of twelfths', 'Filled in');
    await page.getByLabel('Instructions').fill('Read the “whole” page first.');
    await page.getByLabel('Points', { exact: true }).fill('3 ½');
    await fillMoment(page, 'Due', '28/10/2026', '8');
    await sees(page, /It is due .*28 October/);
    await sees(page, 'It is kept in this browser.');
    await page.reload();
    await sees(page, 'Filled in as you left it.');
    expect(await page.getByLabel('Title', { exact: true }).inputValue()).toBe('Filled in');
    expect(await page.getByLabel('Points', { exact: true }).inputValue()).toBe('3 ½');
    expect(await page.getByLabel('Instructions').inputValue()).toContain('“whole”');
    const form = page.url();
    await page.getByLabel('Instructions').scrollIntoViewIfNeeded();
    await button(page, 'Hand out now').click();
    await isInSight(button(page, 'Hand it out once more'));
    await sees(page, 'gave some of these pages to some of these students before: 8C');
    await button(page, 'Hand it out once more').click();
    await board(page);
    await page.goBack();
    await page.waitForURL(form);
    await page.getByText('Filled in as you left it.').waitFor({ state: 'detached' });
    await button(page, 'Hand out now').click();
    await sees(page, '“Filled in” gave some of these pages');
    await button(page, 'Leave it').click();
    await page.getByText('Nothing was done yet.').waitFor({ state: 'detached' });

    // Planned, too; and what goes out by itself is known to the next.
    await fillMoment(page, GOES_OUT, '7 Jan 2099', '0800');
    await button(page, 'Hand out on Wednesday 7 January').click();
    await sees(page, '“Filled in” gave some of these pages');
    await button(page, 'Hand it out once more').click();
    await page
      .getByRole('link', { name: /goes out/ })
      .first()
      .waitFor();
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await page.getByLabel('Title of a new page', { exact: true }).fill('Gale');
    await page.keyboard.press('Enter');
    await page.getByRole('textbox', { name: 'Gale, the original' }).waitFor();
    await fill(page, 'Gale', 'Storm, planned');
    const plan = async () => {
      await fillMoment(page, GOES_OUT, '8 Jan 2099', '0800');
      await button(page, 'Hand out on Thursday 8 January').click();
    };
    await plan();
    await page.getByRole('link', { name: /^Storm, planned/ }).waitFor();
    await fill(page, 'Gale', 'Storm, again');
    await plan();
    await sees(page, '“Storm, planned” goes out with some of these pages');
  });

  it('is begun by one of the staff, finished by another, and goes out once', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: colleague } = await stage.enter('idris.halvorsen');
    await teacher.getByRole('link', { name: '9A Weather and sky' }).first().click();
    await teacher.getByRole('link', { name: 'Choose an original' }).click();
    await teacher.getByRole('link', { name: 'Done or not, without a page' }).click();
    await teacher.getByLabel('Title', { exact: true }).fill('Bring a barometer');
    await button(teacher, 'Save as draft').click();
    await sees(teacher, 'Saved as a draft.');
    await colleague.goto('/desk');
    await colleague.getByRole('link', { name: /^Finish: Bring a barometer is a draft/ }).click();
    await colleague.getByLabel('Instructions').fill('If your family has one.');
    await button(colleague, 'Hand out now').click();
    await colleague
      .getByRole('button', { name: /^Brask, Aino, Bring a barometer: unopened/ })
      .waitFor();
    await button(teacher, 'Hand out now').click();
    await sees(teacher, 'This was handed out already.');
    const { page: student } = await stage.enter('aino.brask');
    await student.getByRole('link', { name: /Bring a barometer/ }).waitFor();
    expect(await student.getByRole('link', { name: /Bring a barometer/ }).count()).toBe(1);
  });

  it('to read is opened by each for herself, which its teacher sees', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('wren.yardley');
    await fill(teacher, 'Chart symbols', 'Signs to read');
    await teacher.getByText('To read', { exact: true }).click();
    await handOutNow(teacher);
    await board(teacher);
    await teacher.getByRole('button', { name: 'Yardley, Wren, Signs to read: unopened' }).waitFor();
    await student.getByRole('link', { name: /Signs to read/ }).click();
    await student.locator('.ProseMirror').waitFor();
    await teacher.getByRole('button', { name: 'Yardley, Wren, Signs to read: opened' }).click();
    await sees(teacher, 'Opened by 1 of the 23 who have it to read.');
    await teacher.getByRole('button', { name: 'Varga, Mateo, Signs to read: unopened' }).waitFor();
  });

  it('is filled in as last time, or as a template says', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await fill(page, 'Rule of twelfths', 'As before');
    await page.getByLabel('Category').fill('Field work');
    await page.getByText('To read', { exact: true }).click();
    await button(page, 'Save as template …').click();
    await page.getByLabel('Name of the template').fill('Field reading');
    await button(page, 'Save').click();
    await sees(page, 'Saved as the template');
    await fill(page, 'Beach profile', 'Another');
    await page.getByLabel('As in a template').selectOption('Field reading');
    await sees(page, 'Filled in as before.');
    expect(await page.getByLabel('Category').inputValue()).toBe('Field work');
    await sees(page, /23 students/);
    await button(page, 'As last time').click();
    await expect.poll(() => page.getByLabel('Category').inputValue()).toBe('');
  });

  it('without a page is done when its student says so', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('isla.abernathy');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await board(teacher);
    await teacher.getByRole('link', { name: 'Hand out something' }).click();
    await teacher.getByRole('link', { name: 'Done or not, without a page' }).click();
    await teacher.getByLabel('Title', { exact: true }).fill('Boots again');
    await sees(teacher, 'will be asked to say when it is done; there is no page.');
    await handOutNow(teacher);
    await board(teacher);
    await student.getByRole('link', { name: /Boots again/ }).click();
    await button(student, 'I have done it').click();
    await student.getByRole('dialog').getByRole('button', { name: 'I have done it' }).click();
    await button(student, 'Take back').waitFor();
    await teacher
      .getByRole('button', { name: /^Abernathy, Isla, Boots again: handed in/ })
      .waitFor();
    // Twice the same title, in the same class, due at the same time: still two things.
    await teacher.getByRole('link', { name: 'Hand out something' }).click();
    await teacher.getByRole('link', { name: 'Done or not, without a page' }).click();
    await teacher.getByLabel('Title', { exact: true }).fill('Boots again');
    await handOutNow(teacher);
    await board(teacher);
    await teacher.goto('/desk');
    await expect
      .poll(() => teacher.getByRole('link', { name: /: Boots again is due, 8C/ }).count())
      .toBe(2);
  });

  it('may have a title of any length: no view grows by it', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('kaisa.ilves');
    const long = 'Hafenrundfahrtsbeobachtungsbogen'.repeat(9);
    await fill(teacher, 'Beach profile', long);
    await handOutNow(teacher);
    await board(teacher);
    const head = teacher.getByRole('columnheader', { name: /^Hafenrund/ });
    const { width, height } = (await head.boundingBox()) ?? { width: 0, height: 0 };
    expect(width).toBeGreaterThan(100);
    expect(width).toBeLessThan(220);
    expect(height).toBeLessThan(180);
    const plan = `${new URL(teacher.url()).pathname}/plan`;
    const goes = [
      [teacher, '/desk', 820],
      [teacher, plan, 820],
      [teacher, '/calendar', 820],
      [student, '/work', 390],
      [student, plan, 390],
      [student, '/calendar', 390],
      [student, '/mailbox', 390],
    ] as const;
    for (const [page, view, width] of goes) {
      await page.setViewportSize({ width, height: 844 });
      await page.goto(view);
      await page
        .getByText(/Hafenrund/)
        .first()
        .waitFor();
      expect([view, await tooWide(page)]).toEqual([view, 0]);
    }
  });

  it('of several pages has a column for each, and reaches its students whole', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('kaisa.ilves');
    await fill(teacher, 'Beach profile', 'Beach, in two pages');
    await pick(teacher, 'Together with it', 'How a light is described');
    await sees(teacher, /copies of “Beach profile[^]*will read the page of “How a light/);
    await handOutNow(teacher);
    await board(teacher);
    const column = (page: RegExp) =>
      teacher.getByRole('columnheader', { name: page }).filter({ hasText: 'Beach, in two pages' });
    await column(/Beach profile/).waitFor();
    await column(/How a light.*to read/).waitFor();
    await student.getByRole('link', { name: /^Beach, in two pages: How a light/ }).click();
    await student.locator('.ProseMirror').waitFor();
    await student.goto('/work');
    await student.getByRole('link', { name: /^Beach, in two pages: Beach profile/ }).waitFor();
    // Every other view that lists what was handed out, too.
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await student.getByRole('link', { name: /^Beach, in two pages: How a light/ }).waitFor();
    await student.getByRole('link', { name: 'What is due' }).click();
    await student.getByRole('heading', { name: 'What is due' }).waitFor();
    await student.getByRole('link', { name: /Beach, in two pages/ }).click();
    await student.getByRole('heading', { name: /Beach profile/ }).waitFor();
    await teacher.getByRole('link', { name: 'Plan', exact: true }).click();
    await sees(teacher, 'on the shelf: students read it');
    await teacher.getByRole('link', { name: 'Beach, in two pages' }).click();
    await teacher.getByRole('heading', { name: 'Beach, in two pages', level: 1 }).waitFor();
    await teacher.goto('/desk');
    await teacher.getByRole('link', { name: /Beach, in two pages is due, 8C/ }).waitFor();
  });

  it('is withdrawn and brought back, before its student’s eyes; one gets more time', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('teo.calloway');
    const work = student.getByRole('link', { name: /Harbour sketch/ });
    await work.waitFor();
    await openAssignment(teacher, 'Harbour sketch');
    await button(teacher, 'Withdraw from 8C').click();
    await sees(teacher, 'its students do not see it');
    await work.waitFor({ state: 'detached' });
    await button(teacher, 'Restore').click();
    await work.waitFor();
    await teacher.getByRole('button', { name: 'More about Calloway, Teo' }).click();
    await button(teacher, 'Extension …').click();
    await fillMoment(teacher, 'Until', '2/3/2099', '12:00');
    await teacher.getByLabel('Reason, for staff').fill('was ill');
    await button(teacher, 'Save').click();
    await sees(teacher, 'was ill');
    await student.getByRole('link', { name: /Harbour sketch.*due 2 Mar 12:00/ }).waitFor();
  });
});

describe('a copy that is open', () => {
  it('learns what its teacher changes, and its student’s words go along', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student, context } = await stage.enter('wren.yardley');
    await fill(teacher, 'Beach profile', 'Beach, open');
    await handOutNow(teacher);
    await board(teacher);
    await student.getByRole('link', { name: /Beach, open/ }).click();
    const writing = student.locator('.answer-writing').first();
    await writing.click();
    await student.keyboard.type('Sand. ');
    await sees(student, 'everything is saved');

    await openAssignment(teacher, 'Beach, open');
    await teacher.getByRole('button', { name: 'More about Yardley, Wren' }).click();
    await button(teacher, 'Extension …').click();
    await fillMoment(teacher, 'Until', '2/3/2099', '12:00');
    await button(teacher, 'Save').click();
    await sees(student, 'You have until 2 Mar 12:00.');
    await button(student, 'Seen').click();
    await teacher.getByRole('link', { name: 'Change …' }).click();
    await teacher.getByLabel('Title', { exact: true }).fill('Beach, renamed');
    await teacher.getByLabel('Points', { exact: true }).fill('5');
    await button(teacher, 'Save this change').click();
    await sees(student, 'It is called “Beach, renamed” now.');
    await sees(student, 'It counts for 5 points now.');
    await student.getByRole('heading', { name: 'Beach, renamed', level: 1 }).waitFor();
    const way = student.getByRole('navigation', { name: 'Where you are' });
    await way.getByText('Beach, renamed').waitFor();
    expect(await student.title()).toBe('Beach, renamed · Uncia');

    // Withdrawn, what was under way is kept, and saved when it comes back.
    await writing.click();
    await student.keyboard.press('End');
    await context.setOffline(true);
    await student.keyboard.type('While away. ');
    await button(teacher, 'Withdraw from 8C').click();
    await sees(teacher, 'its students do not see it');
    await context.setOffline(false);
    await sees(student, 'This page is out of your sight now');
    await button(teacher, 'Restore').click();
    await sees(student, 'everything is saved');
    await student.getByText('out of your sight').waitFor({ state: 'detached' });
    await writing.click();
    await student.keyboard.press('End');
    await student.keyboard.type('Here again. ');
    await sees(student, 'everything is saved');

    // Another delivery: they go to the new page, where they can be put back.
    await context.setOffline(true);
    await student.keyboard.type('Under way.');
    await teacher.getByRole('link', { name: 'Change …' }).click();
    await teacher.getByText('One for all', { exact: true }).click();
    await sees(teacher, 'kept for 1 student to read');
    await button(teacher, 'Save this change').click();
    await sees(teacher, 'What changed');
    await context.setOffline(false);
    await sees(student, 'You were given another page for this.');
    await student.getByRole('link', { name: 'Go to your page' }).click();
    await sees(student, 'Under way.');
    await writing.click();
    await button(student, 'Insert at the cursor').click();
    await student.locator('.answer-writing', { hasText: 'Under way.' }).first().waitFor();
    await sees(student, 'everything is saved');
  });
});

describe('a student’s workbook', () => {
  it('takes a copy of a reading, and pages of her own, which her teacher finds there', async () => {
    const { page: student } = await stage.enter('luca.marchetti');
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await student.getByRole('link', { name: 'What the tide does in a day' }).click();
    await button(student, 'Copy to my workbook').click();
    await student.waitForURL(/read/);
    await sees(student, 'Your own page');
    await student.locator('.ProseMirror p').first().click();
    await student.keyboard.press('Home');
    await student.keyboard.type('My own words: ');
    await sees(student, 'everything is saved');
    await student.getByRole('link', { name: 'Workbook' }).click();
    await student.getByLabel('Title of a page of my own').fill('My sea book');
    await button(student, 'Add page').click();
    await student.getByRole('heading', { name: 'My sea book' }).waitFor();
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher
      .getByRole('region', { name: 'Board of 8C' })
      .getByRole('link', { name: 'Marchetti, Luca' })
      .click();
    await teacher.getByRole('link', { name: /^My sea book/ }).waitFor();
    await teacher.getByRole('link', { name: /^What the tide does in a day/ }).click();
    await sees(teacher, 'My own words:');
  });
});

describe('groups', () => {
  it('keep what was not saved over a look at others, say which work goes by them, are deleted and restored', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Groups', exact: true }).click();
    const crews = button(page, 'Crews');
    await crews.click();
    const first = page.getByRole('textbox', { name: /^Name of (?!these)/ }).first();
    const was = await first.inputValue();
    await first.fill('Red boat');
    await page.getByText('not saved yet').waitFor();
    await button(page, 'New groups').click();
    await page.getByText('not saved', { exact: true }).waitFor();
    await crews.click();
    expect(await first.inputValue()).toBe('Red boat');
    await first.fill(was);
    await page.getByText('not saved yet').waitFor({ state: 'detached' });

    // A single group goes, and its members are in none.
    await page.getByRole('button', { name: `Remove ${was}` }).click();
    await page.getByText('not saved yet').waitFor();
    await button(page, 'Save').click();
    await page.getByText('These assignments go by the groups.').waitFor();
    await page.getByRole('link', { name: 'See what changes in Pilot book page' }).click();
    await page
      .getByText(/will get a page alone|new pages? will be made/)
      .first()
      .waitFor();
    await page.goBack();
    await crews.click();
    await button(page, 'Delete …').click();
    await page.getByText('The pages stay with whom they are').waitFor();
    await button(page, 'Delete the groups').click();
    await crews.waitFor({ state: 'detached' });
    await page.getByText('Removed · 1').click();
    await button(page, 'Restore').click();
    await crews.waitFor();
  });
});

describe('a test that marks itself', () => {
  it('is marked and back as it is handed in; a teacher counts an answer otherwise', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: ada } = await stage.enter('ada.fennick');
    await fill(teacher, 'Tides test', 'Tides for 8C');
    await teacher.getByLabel('Points', { exact: true }).fill('10');
    await teacher.getByLabel(/^Marked/).selectOption('by itself, and handed back at once');
    await sees(
      teacher,
      /by the answer keys of 5 of 5 parts; students see at once how many are right/,
    );
    await handOutNow(teacher);
    await board(teacher);

    await ada.getByRole('link', { name: /Tides for 8C/ }).click();
    await ada.locator('.answer-number').first().click();
    await ada.keyboard.type('360 cm');
    await ada.locator('.answer-short').first().click();
    await ada.keyboard.type('a king tide');
    await ada.getByText('the third', { exact: true }).click();
    await sees(ada, '3 of 5 parts done');
    await button(ada, 'Hand in').click();
    const sheet = ada.getByRole('dialog');
    await sheet.getByText('It is marked at once, so you cannot take it back.').waitFor();
    await button(ada, 'Hand in').last().click();
    const result = ada.getByLabel('What the answers came to');
    await result.getByText('2 of 5 right').waitFor();
    await ada.getByText('4 of 10 points').waitFor();
    expect(await result.innerText()).not.toContain('spring tide');
    expect(await button(ada, 'Take back').count()).toBe(0);

    await openAssignment(teacher, 'Tides for 8C');
    await teacher
      .getByRole('listitem')
      .filter({ hasText: 'Fennick, Ada' })
      .getByRole('link', { name: /handed back/ })
      .click();
    await button(teacher, 'Count part 4 as right').click();
    await teacher.getByText('counted as right by a teacher').waitFor();
    await button(teacher, 'Hand back again').click();
    await result.getByText('3 of 5 right').waitFor();
    await result.getByText('counted as right by a teacher').waitFor();
    // The board’s points follow, and so does the gradebook.
    await expect.poll(async () => teacher.getByLabel('Points').inputValue()).toBe('6');
  });
});
