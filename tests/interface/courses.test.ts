import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { fillMoment, giveFiles } from '../support/fields';
import { holdBack, useStage } from '../support/stage';

const stage = useStage();
const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();

async function openCourse(title = 'Coast & Chart') {
  const { page } = await stage.enter('tamsin.orrey');
  await page.goto('/courses');
  await page.getByRole('link', { name: title }).click();
  await page.getByRole('heading', { name: title, level: 1 }).waitFor();
  return { page };
}
const rows = (page: Page, unit: string) =>
  page.getByRole('list', { name: `In ${unit}` }).getByRole('listitem');
const names = async (page: Page, unit: string) =>
  Promise.all((await rows(page, unit).all()).map((row) => row.getAttribute('aria-label')));

describe('a course', () => {
  it('has its pages put in order by keyboard, and keeps the order', async () => {
    const { page } = await openCourse();
    await rows(page, 'The tide').first().waitFor();
    const before = await names(page, 'The tide');
    await page.getByLabel(/^Move What the tide does in a day/).focus();
    await page.keyboard.press('Enter');
    const kept = page.waitForResponse((answer) => answer.url().endsWith('/order'));
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await kept;
    await page.goto(page.url());
    await rows(page, 'The tide').first().waitFor();
    expect(await names(page, 'The tide')).toEqual([before[1], before[0], ...before.slice(2)]);
  });

  it('has its pages dragged from unit to unit', async () => {
    const { page } = await openCourse();
    const grip = await page.getByLabel(/^Move Chart symbols/).boundingBox();
    const target = await rows(page, 'Lights').nth(1).boundingBox();
    if (!grip || !target) throw new Error('nothing to drag');
    const kept = page.waitForResponse((answer) => answer.url().endsWith('/order'));
    await page.mouse.move(grip.x + 8, grip.y + 8);
    await page.mouse.down();
    await page.mouse.move(grip.x + 8, grip.y + 40, { steps: 5 });
    await page.mouse.move(target.x + 12, target.y + 20, { steps: 20 });
    await page.mouse.move(target.x + 12, target.y + 24, { steps: 5 });
    // The place that waits for it is not shown, but is there.
    await page
      .getByRole('list', { name: 'In Lights' })
      .locator('li', { hasText: 'Chart symbols' })
      .waitFor({ state: 'attached' });
    await page.mouse.up();
    await kept;
    await page.goto(page.url());
    await rows(page, 'Lights').first().waitFor();
    expect(await names(page, 'Lights')).toContain('Chart symbols');
    expect(await names(page, 'The tide')).not.toContain('Chart symbols');
  });

  it('takes private notes, shows them where the page is used, and never to students', async () => {
    const { page } = await openCourse();
    await page.getByRole('button', { name: 'More about How a light is described' }).click();
    await page.getByRole('button', { name: 'Add a note', exact: true }).click();
    await page.getByLabel('A note for staff').fill('Bring the old lamp.');
    await page.getByRole('button', { name: 'Save note' }).click();
    await sees(page, 'Bring the old lamp.');
    await page.goto('/desk');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Plan' }).click();
    await sees(page, 'Bring the old lamp.');
    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await sees(student, 'How a light is described');
    expect(await student.content()).not.toContain('old lamp');
  });

  it('copies a page into another course', async () => {
    const { page } = await openCourse();
    await page.getByLabel('Choose Beach profile').check();
    await page.getByRole('button', { name: 'Copy', exact: true }).click();
    await page.goto('/courses');
    await page.getByLabel('Title of a new course').fill('Rivers & rain');
    await page.getByRole('button', { name: 'Create a course' }).click();
    await page.getByRole('button', { name: 'Paste here, in no unit' }).click();
    await page.getByRole('link', { name: /^Beach profile/ }).waitFor();
    await sees(page, /original · 3 parts/);
  });

  it('brings in several documents at once with their pictures, and says what stayed behind', async () => {
    const { page } = await openCourse();
    const pixel = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    await page.getByRole('button', { name: 'Bring in pages' }).click();
    await page.getByLabel('Into').selectOption({ label: 'Storm' });
    await giveFiles(
      page,
      'Documents and pictures: choose or drop',
      { name: 'swell.md', contents: '# Swell\n\nWhat moves?\n\n![a cork](cork.png)\n' },
      { name: 'cork.png', contents: pixel },
      {
        name: 'film.html',
        contents: '<h1>Film</h1><video src="x.mp4"></video><p>Watch it.</p>',
      },
      { name: 'wrong.docx', contents: 'no' },
      { name: 'wrong.pdf', contents: 'no' },
    );
    await sees(page, /is here as “Swell”, with all that was in it/);
    await sees(page, /This stayed behind: a film/);
    await sees(page, /wrong\.docx/);
    await sees(page, /“wrong\.pdf” is not read here\. What is: \.docx, \.odt/);
    await page.getByRole('button', { name: 'Close' }).click();
    await page.getByRole('link', { name: 'Swell', exact: true }).click();
    await page.locator('.ProseMirror img[data-file]').waitFor();
  });

  it('reads a rubric from a table, names each fault by its cell, and writes it out', async () => {
    const { page } = await openCourse();
    await page.getByRole('link', { name: 'Harbour sketch, scored' }).click();
    const read = (name: string, text: string) =>
      giveFiles(page, 'Import a table', { name, contents: text });
    await read('bad.csv', ',4,two\nTruth,yes,no\n,a,b\n');
    await sees(page, 'C1');
    await sees(page, /“two” is not a whole number/);
    await sees(page, 'A3');
    await page.getByLabel('Name of criterion 4').waitFor();
    await read('good.csv', ';6;3\nTruth;"all of it";some\n');
    await sees(page, 'Nothing is changed yet. It would change:');
    await page.getByLabel('Name of criterion 4').waitFor();
    await page.getByRole('button', { name: 'Leave the rubric as it is' }).click();
    await read('good.csv', ';6;3\nTruth;"all of it";some\n');
    await page.getByRole('button', { name: 'Take the table over' }).click();
    await sees(page, '1 criterion, 6 points in all');
    await page.getByRole('button', { name: 'Add criterion' }).click();
    await sees(page, '2 criteria, 12 points in all');
    await sees(page, 'everything is saved');
    const file = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Download .xlsx' }).click();
    expect((await file).suggestedFilename()).toBe('Harbour sketch, scored.xlsx');

    // As it was before the table came, also after a reload.
    await page.goto(page.url());
    await page.getByText('What changed · 2').click();
    await page
      .getByRole('button', { name: /^As it was before/ })
      .last()
      .click();
    await sees(page, /as it was before/);
    await page.getByLabel('Name of criterion 4').waitFor();
  });

  it('has a rubric’s rows and columns put in order, and says what is wrong in words', async () => {
    const { page } = await openCourse();
    await page.getByRole('link', { name: 'Harbour sketch, scored' }).click();
    const names = async () =>
      Promise.all(
        (await page.getByLabel(/^Name of criterion/).all()).map((one) => one.inputValue()),
      );
    await page.getByLabel('Name of criterion 1').waitFor();
    const [first = '', second = '', ...others] = await names();
    const levels = async () =>
      Promise.all((await page.getByLabel(/^Points of level/).all()).map((one) => one.inputValue()));
    const points = await levels();
    const choose = async (of: string, what: string) => {
      await page.getByRole('button', { name: `More about ${of}`, exact: true }).click();
      await page.getByRole('button', { name: what, exact: true }).click();
    };
    const leading = await page
      .getByLabel(`${first}, ${points[0]} points`, { exact: true })
      .inputValue();
    // The second change is made while the first is on its way.
    const slowly = await holdBack(page, '**/rubrics/*', { method: 'PUT' });
    await choose(first, 'Move down');
    await choose(`the level of ${points[0]} points`, 'Move right');
    slowly.letGo();
    await sees(page, 'everything is saved');
    await page.goto(page.url());
    await page.getByLabel('Name of criterion 1').waitFor();
    expect(await names()).toEqual([second, first, ...others]);
    expect(await levels()).toEqual([points[1], points[0], ...points.slice(2)]);
    expect(
      await page.getByLabel(`${first}, ${points[0]} points`, { exact: true }).inputValue(),
    ).toBe(leading);
    await page.getByLabel('Points of level 1').fill('2.5');
    await page.getByLabel('Name of criterion 1').focus();
    await sees(page, 'Each level has whole points, from 0 to 1000.');
    await page.goto(page.url());
    await choose(second, 'Remove');
    await page.getByText('everything is saved').waitFor();
    expect(await names()).toEqual([first, ...others]);
    await page.getByText(/^What changed/).click();
    await page
      .getByRole('button', { name: /^As it was before/ })
      .first()
      .click();
    await sees(page, /as it was before/);
    expect(await names()).toEqual([second, first, ...others]);
  });

  it('has its rubrics copied into another course', async () => {
    const { page } = await openCourse();
    await page.getByLabel('Choose Harbour sketch, scored').check();
    await page.getByRole('button', { name: 'Copy', exact: true }).click();
    await page.goto('/courses');
    await page.getByLabel('Title', { exact: false }).first().fill('Knots');
    await page.getByLabel('Title', { exact: false }).first().press('Enter');
    await page.getByRole('heading', { name: 'Knots', level: 1 }).waitFor({ state: 'attached' });
    await page.getByRole('button', { name: 'Paste here, in no unit' }).click();
    await page.getByRole('link', { name: 'Harbour sketch, scored' }).waitFor();
  });
});

describe('the plan of a class', () => {
  it('shows the notes of the units that came, and brings back what was taken away', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Plan' }).click();
    await sees(page, 'Three lessons were too few.');
    await page.getByRole('button', { name: 'More about Words of the shore' }).click();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await page.getByRole('link', { name: 'Words of the shore' }).waitFor({ state: 'hidden' });
    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await sees(student, 'Words we found');
    expect(await student.content()).not.toContain('Words of the shore');
    await page.getByText('Removed · 1').click();
    await page.getByRole('button', { name: 'Restore' }).click();
    await page.getByRole('link', { name: 'Words of the shore' }).waitFor();
    await student.getByRole('link', { name: 'Words of the shore' }).waitFor();
  });

  it('has its lessons and its opening set, and says what cannot be', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Set-up' }).click();
    const add = async (from: string, to: string) => {
      await page.locator('select[name=weekday]').selectOption('Sunday');
      await page.getByLabel('From', { exact: true }).fill(from);
      await page.getByLabel('To', { exact: true }).fill(to);
      await page
        .getByRole('region', { name: 'Lessons' })
        .getByRole('button', { name: 'Add' })
        .click();
    };
    await add('09:00', '09:50');
    await sees(page, 'Sunday 09:00 to 09:50');
    await add('09:30', '10:00');
    await sees(page, 'The class has a lesson then already, 09:00 to 09:50.');
    await page.getByRole('link', { name: 'Plan' }).click();
    await page.getByRole('button', { name: 'Close class' }).click();
    const set = async (day: string, time: string) => {
      await fillMoment(page, 'or on', day, time);
      await page.getByRole('button', { name: 'Set', exact: true }).click();
    };
    await set('1/1/2020', '8:00');
    await sees(page, 'This time has passed.');
    await set('5/1/2099', '8:00');
    await sees(page, 'Opens by itself on Monday 5 January, 08:00.');
    await page.getByRole('button', { name: 'Open 8C now' }).click();
    await page.getByRole('button', { name: 'Close class' }).waitFor();
  });
});

describe('an adapted original', () => {
  it('shows what changed in its original, and takes it over piece by piece', async () => {
    const { page } = await openCourse();
    await page.getByRole('button', { name: 'More about How a light is described' }).waitFor();
    await page.getByRole('button', { name: 'More about Beach profile' }).click();
    await page.getByRole('button', { name: 'Adapt for some students' }).click();
    await page.getByRole('link', { name: /^Beach profile.*, adapted/ }).waitFor();
    await page.getByRole('link', { name: /^Beach profile.*move\?$/ }).click();
    const original = page.getByRole('textbox', { name: /^Beach profile.*the original$/ });
    await original.getByText('By how much did the berm move?').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Measure twice.');
    await sees(page, 'everything is saved');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await sees(page, 'which has changed since');
    await page.getByRole('link', { name: /^Beach profile.*, adapted/ }).click();
    await sees(page, 'in one place');
    await page.getByRole('button', { name: 'Take over' }).click();
    const adapted = page.getByRole('textbox', { name: /adapted, the original$/ });
    await adapted.getByText('By how much did the berm move? Measure twice.').waitFor();
    await sees(page, 'It has all that is new there.');
    await sees(page, 'everything is saved');
    await page.getByRole('button', { name: 'Done with these changes' }).click();
    await page.getByText('It has all that is new there.').waitFor({ state: 'hidden' });
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await sees(page, /adapts Beach profile.* · 3 parts/);
  });

  it('takes a question over with its key, leaves what is to stay, and is told of a changed key', async () => {
    const { page } = await openCourse();
    const inCourse = page.url();
    await page.getByLabel('Title of a new page', { exact: true }).fill('Keyed');
    await page.keyboard.press('Enter');
    const original = page.getByRole('textbox', { name: 'Keyed, the original' });
    const accepts = page.getByLabel('Expected, one on a line');
    /** A question where the cursor is, with a key. */
    const ask = async (question: string, key: string) => {
      await page.keyboard.type(question);
      await page.getByRole('button', { name: 'A place for an answer' }).click();
      await page.getByRole('button', { name: 'Short text', exact: true }).click();
      await accepts.fill(key);
      const kept = page.waitForResponse((answer) => answer.url().endsWith('/keys'));
      await accepts.blur();
      await kept;
    };
    await original.click();
    await page.keyboard.type('Draw the compass.');
    await page.keyboard.press('Enter');
    await ask('Which way?', 'north');
    await sees(page, 'everything is saved');
    await page.goto(inCourse);
    await page.getByRole('button', { name: 'More about Keyed' }).click();
    await page.getByRole('button', { name: 'Adapt for some students' }).click();
    await page.getByRole('link', { name: 'Keyed, adapted' }).waitFor();

    // The original: a paragraph changes, a question comes, and a key becomes another.
    await page.getByRole('link', { name: 'Keyed', exact: true }).click();
    await original.getByText('Which way?').click();
    await page.keyboard.press('ArrowDown');
    await accepts.fill('south');
    const kept = page.waitForResponse((answer) => answer.url().endsWith('/keys'));
    await accepts.blur();
    await kept;
    await original.getByText('Draw the compass.').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Label it.');
    await page.keyboard.press('Enter');
    await ask('How far?', 'two miles');
    await sees(page, 'everything is saved');

    await page.goto(inCourse);
    await page.getByRole('link', { name: 'Keyed, adapted' }).click();
    const adapts = page.getByRole('region', { name: /^Adapts/ });
    const adapted = page.getByRole('textbox', { name: 'Keyed, adapted, the original' });
    await adapts.getByText('Draw the compass. Label it.').waitFor();
    const item = (text: string) => adapts.getByRole('listitem').filter({ hasText: text });
    await item('Draw the compass. Label it.')
      .getByRole('button', { name: 'Leave as it is' })
      .click();
    await item('Draw the compass. Label it.').waitFor({ state: 'detached' });
    await item('The key of “Which way?”').getByText('“south”').waitFor();
    await item('The key of “Which way?”')
      .getByRole('button', { name: 'Take the key over' })
      .click();
    await item('The key of “Which way?”').waitFor({ state: 'detached' });
    // Each block is taken by itself, and one taken over and undone is offered again.
    await item('How far?').getByRole('button', { name: 'Take over' }).click();
    await adapted.getByText('How far?').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await item('How far?').getByRole('button', { name: 'Take over' }).click();
    const keyed = page.waitForResponse((answer) => answer.url().endsWith('/keys'));
    await item('a place for an answer').getByRole('button', { name: 'Take over' }).click();
    expect(await (await keyed).text()).toContain('two miles');
    await sees(page, 'everything is saved');
    // What was left stays left over a reload, until it is asked for.
    await page.reload();
    await adapts.getByText('It has all that it is to have of what is new there.').waitFor();
    await page.getByRole('button', { name: 'Offer again what was left as it is' }).click();
    await item('Draw the compass. Label it.').waitFor();
  });
});

describe('a roster and groups', () => {
  it('are brought up to date by a file, undone, and made into groups that are kept', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Roster' }).click();
    await sees(page, 'In the class · 23');
    const students = page.getByRole('region', { name: /^In the class/ }).getByRole('listitem');
    await students.first().waitFor();
    const lines = (await students.allInnerTexts()).map((text) => text.split('\n')[0] ?? '');
    const kept = lines.filter((name) => !name.startsWith('Yardley'));
    const roster = `Schüler;Nr\n${[...kept, 'Sandoval, Mira', '=1+1'].map((name, i) => `"${name}";${i}`).join('\n')}\n`;
    await giveFiles(page, 'Roster file: choose or drop', {
      name: '8C.csv',
      contents: Buffer.from(roster, 'latin1'),
    });
    await sees(page, '2 lines would change; 22 students stay as they are.');
    await sees(page, /line 25: “=1\+1” is a formula|line 25: .* has no/);
    await page.getByRole('button', { name: 'Save these 2 changes' }).click();
    await sees(page, '2 changes are made.');
    await sees(page, 'Sandoval, Mira joined; Yardley, Wren left.');
    await page.getByRole('button', { name: 'Give one a first password' }).click();
    await sees(page, 'New passwords, shown this once');
    await page.getByRole('button', { name: 'Undo' }).click();
    await sees(page, /, undone$/);
    await page
      .getByRole('region', { name: /^In the class/ })
      .getByText('Yardley, Wren')
      .waitFor();

    await page.getByRole('link', { name: 'Groups', exact: true }).click();
    await page.getByLabel('Group size').fill('5');
    await page.getByRole('button', { name: 'Make groups' }).click();
    await page.getByLabel('Name of Group 4').waitFor();
    await page.getByLabel('Name of these groups').fill('Boats');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await sees(page, 'The groups are saved.');
    await page.goto(page.url());
    await page.getByRole('button', { name: 'Boats' }).click();
    const members = await page
      .getByRole('list', { name: /^Group/ })
      .getByRole('listitem')
      .count();
    expect(members).toBe(23);
  });
});

describe('finding', () => {
  it('is a key away, goes by arrows, and keeps to what a student may see', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.keyboard.press('/');
    await page.getByRole('combobox', { name: 'Find anything' }).fill('chart symbls');
    const first = page.getByRole('option').first();
    await first.waitFor();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowUp');
    const at = await page.getByRole('combobox').getAttribute('aria-activedescendant');
    await page.locator(`[id="${at}"]`).getByText('Chart symbols').waitFor();
    await page.keyboard.press('Enter');
    await page.waitForURL(/editor|marking|classes/);
    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('button', { name: 'Find anything' }).click();
    await student.getByRole('combobox', { name: 'Find anything' }).fill('cupboard checked depths');
    await sees(student, 'Nothing found');
  });
});

describe('a new class', () => {
  it('is built from a course, stays hidden, and is told of when it opens', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: 'New class' }).click();
    await page.getByLabel('Name, such as 8C').fill('8B');
    await page.getByRole('button', { name: 'Create class' }).click();
    await sees(page, 'There is a class 8B of this course in that term already.');
    await page.getByLabel('It is another class of that name').check();
    await page.getByRole('button', { name: 'Create class' }).click();
    await page.getByRole('checkbox', { name: 'Storm' }).uncheck();
    await sees(page, /^3 units and/);
    await page.getByRole('button', { name: 'Bring it in' }).click();
    await page.getByRole('link', { name: 'What the tide does in a day' }).waitFor();
    await sees(page, 'Students see nothing of 8B');
    await page.getByRole('button', { name: 'Open 8B now' }).click();
    await page.getByRole('button', { name: 'Close class' }).waitFor();
    await page.getByRole('link', { name: /Mailbox/ }).click();
    await sees(page, '8B is open');
    await sees(page, '8B is built');
  });
});

describe('a page of a class', () => {
  it('is copied into the course; a welcome page is removed and comes back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Plan' }).click();
    await page.getByRole('button', { name: 'More about Words we found' }).click();
    await page.getByRole('button', { name: 'Copy into the course' }).click();
    await sees(page, 'A copy of “Words we found” is in the course Coast & Chart now.');
    const about = page.getByRole('complementary', { name: 'About the class' });
    const edit = about.getByRole('region', { name: /elcome/ }).getByRole('link', { name: 'Edit' });
    await about.getByRole('button', { name: 'Remove' }).click();
    await about.getByRole('button', { name: 'Write a welcome page' }).waitFor();
    await page.getByText(/^Removed · /).click();
    await page
      .getByRole('listitem')
      .filter({ hasText: /elcome/ })
      .getByRole('button', { name: 'Restore' })
      .click();
    await edit.waitFor();
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await page.getByRole('link', { name: 'Words we found' }).waitFor();
  });
});

describe('a page on the worktable', () => {
  it('is written by teacher and student at once, and is out of sight once it lies in the cupboard', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
    await student.getByRole('link', { name: 'Words we found' }).click();
    await student.getByRole('textbox', { name: 'Words we found' }).click();
    await student.keyboard.press('ControlOrMeta+End');
    await student.keyboard.type(' Ada was here.');
    await sees(student, 'everything is saved');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.getByRole('link', { name: 'Plan' }).click();
    await teacher.getByRole('link', { name: 'Words we found' }).click();
    await sees(teacher, 'Ada was here.');
    await teacher.getByRole('textbox', { name: /^Words we found/ }).click();
    await teacher.keyboard.press('ControlOrMeta+Home');
    await teacher.keyboard.type('All of you: ');
    await sees(student, 'All of you:');
    await sees(teacher, 'everything is saved');
    await teacher.getByRole('link', { name: 'Plan' }).click();
    await teacher.getByRole('button', { name: 'More about Words we found' }).click();
    await teacher.getByRole('button', { name: 'Into the cupboard' }).click();
    await teacher.getByRole('button', { name: 'More about Words we found' }).click();
    await teacher.getByRole('button', { name: 'To the shelf' }).waitFor();
    const address = new URL(student.url()).pathname.replace('/read/', '/pages/');
    const status = (path: string) => student.evaluate(async (to) => (await fetch(to)).status, path);
    expect(await status(address)).toBe(404);
  });
});
