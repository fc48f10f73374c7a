import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readRubricOf } from '../../src/lib/server/copy/scorings';
import { connect } from '../../src/lib/server/db/connect';
import { Eavesdropper } from '../support/eavesdropper';
import { selectWords, useStage } from '../support/stage';

const stage = useStage();
let between: Eavesdropper;
beforeAll(async () => {
  between = await Eavesdropper.before(stage.server.origin);
});
afterAll(() => between.leave());

/** Written by staff: none of it is the student's to know before the copy goes back. */
const WAITS = { comment: 'WAITS-COMMENT', proposal: 'WAITSPROPOSAL', words: 'WAITS-WORDS' };
/** Said by a classmate: it goes back with the copy. */
const CLASSMATE = 'WAITS-CLASSMATE';
const STAFF = 'STAFF-ALONE';
const WITHHELD = 'WITHHELD-CLASSMATE';

/**
 * Two classmates score a copy, and what one of them said is withheld.
 * @returns the ids of their copies, which are as good as names
 */
async function scoreAsClassmates(page: string): Promise<string[]> {
  const db = connect(stage.server.database, 2);
  const { assignment_id, class_id, school_id, version } = await db
    .selectFrom('page')
    .selectAll()
    .where('id', '=', page)
    .executeTakeFirstOrThrow();
  const rubric = await readRubricOf(db, assignment_id ?? '');
  const others = await db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', assignment_id)
    .where('class_id', '=', class_id)
    .where('id', '<>', page)
    .where('student_id', 'is not', null)
    .limit(2)
    .execute();
  for (const [index, { id: by_page_id, student_id }] of others.entries()) {
    const placed = { school_id, page_id: page, by_page_id };
    const words = index === 0 ? CLASSMATE : WITHHELD;
    const criteria = rubric?.table.criteria.map(({ id }) => ({ id, points: '1', words })) ?? [];
    await db
      .insertInto('reading')
      .values({ ...placed, version })
      .execute();
    await db
      .insertInto('student_scoring')
      .values({
        ...placed,
        person_id: student_id ?? '',
        version,
        scoring: JSON.stringify({ rubric, criteria, overruled: null }),
      })
      .execute();
    if (words === WITHHELD) await db.insertInto('withheld_scoring').values(placed).execute();
  }
  await db.destroy();
  return others.map(({ id }) => id);
}

const comment = async (page: Page, text: string, staffOnly = false) => {
  await page.getByRole('textbox', { name: /^On / }).fill(text);
  if (staffOnly) await page.getByText('For staff only').click();
  await page.getByRole('button', { name: 'Add comment' }).click();
  await page
    .getByRole('article', { name: /^Comment/ })
    .getByText(text)
    .waitFor();
};

/** Goes through all that a student has. */
async function goThrough(page: Page, copy: string) {
  await page.goto(copy);
  await page.getByText('From your teachers').waitFor();
  await page.getByRole('button', { name: 'How it was written' }).click();
  await page.getByRole('document', { name: 'The page at this moment' }).waitFor();
  await page.goto('/mailbox');
  await page.goto('/');
  for (const path of ['plan', 'workbook', 'grades']) {
    const to = await page
      .locator(`a[href*="/${path}"]`)
      .first()
      .getAttribute('href', { timeout: 500 })
      .catch(() => null);
    if (to) await page.goto(to);
  }
  for (const words of [...Object.values(WAITS), STAFF]) {
    await page.goto('/');
    await page.getByRole('button', { name: 'Find anything' }).click();
    await page.getByRole('combobox', { name: 'Find anything' }).fill(words);
    await page
      .getByText(/Nothing|No /)
      .first()
      .waitFor();
  }
}

describe('what is kept back', () => {
  it('is in nothing that a student’s browser receives, until the copy goes back; what is the staff’s, never', async () => {
    const { page: student } = await stage.enter('ada.fennick', { baseURL: between.origin });
    await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await student.waitForURL(/\/work\//);
    const copy = new URL(student.url()).pathname;
    await student.getByText('handed in').first().waitFor();

    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.waitForURL(/classes/);
    const klass = /classes\/([^/?]+)/.exec(teacher.url())?.[1] ?? '';
    await teacher.goto(`/classes/${klass}/marking/${copy.split('/').at(-1)}`);
    await teacher.getByText('Send when the copy goes back').click();
    await comment(teacher, WAITS.comment);
    await comment(teacher, STAFF, true);
    await teacher.getByText('Propose', { exact: true }).click();
    const words = await teacher.locator('.answer-writing').first().innerText();
    const [first = ''] = words.split(' ');
    await selectWords(teacher, first);
    await expect.poll(() => teacher.evaluate(() => String(getSelection()))).toBe(first);
    await teacher.keyboard.type(WAITS.proposal);
    await teacher.getByText('Comment', { exact: true }).first().click();
    await teacher.getByRole('article', { name: new RegExp(WAITS.proposal) }).waitFor();
    const criterion = teacher.getByRole('radiogroup', { name: 'Depths' });
    await criterion.locator('label').last().click();
    await teacher.getByLabel('Words on Depths').fill(WAITS.words);
    await teacher.getByRole('button', { name: 'Save', exact: true }).click();
    await teacher
      .getByText(/^saved|Saved/)
      .first()
      .waitFor();
    const classmates = await scoreAsClassmates(copy.split('/').at(-1) ?? '');
    // The student is there, and looks everywhere.
    await goThrough(student, copy);
    const secret = [...Object.values(WAITS), CLASSMATE, STAFF, WITHHELD, ...classmates];
    expect(between.length).toBeGreaterThan(100_000);
    expect(between.heardOf(secret)).toEqual([]);

    await student.goto(copy);
    await teacher.getByRole('button', { name: 'Hand back' }).click();
    await student.getByText(WAITS.comment).waitFor();
    await student.getByRole('article', { name: new RegExp(WAITS.proposal) }).waitFor();
    await student.getByText(WAITS.words).waitFor();
    await student.getByText(CLASSMATE).first().waitFor();
    expect(between.heardOf(secret).sort()).toEqual([...Object.values(WAITS), CLASSMATE].sort());
  });

  it('nor what was given part by part, on a pile or with a stamp, nor by two who mark apart', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    // The first copies that wait: of a test that is scored by parts, and of one that two mark.
    const openFirst = async (klass: string, title: string) => {
      await tamsin.goto('/desk');
      await tamsin
        .getByRole('link', { name: `${klass} Coast & Chart` })
        .first()
        .click();
      const board = tamsin.getByRole('region', { name: `Board of ${klass}` });
      await board.getByRole('link', { name: title }).click();
      await tamsin.getByRole('link', { name: 'Mark', exact: true }).click();
      await tamsin.getByText('In the margin').waitFor();
      return tamsin.getByRole('heading', { level: 1 }).innerText();
    };
    const enterAs = async (name: string) => {
      const login = name.toLowerCase().replace(' ', '.');
      const { page } = await stage.enter(login, { baseURL: between.origin });
      return page;
    };
    const copyOf = () => `/work/${tamsin.url().split('/').at(-1)}`;

    const tested = await openFirst('8A', 'Lights at night');
    const copy = copyOf();
    const marking = tamsin.url();
    const student = await enterAs(tested);
    await student.goto(copy);
    await student.getByText('From your teachers').waitFor();
    await tamsin.getByText('Send when the copy goes back').click();
    await tamsin.evaluate(async () => {
      const canvas = new OffscreenCanvas(2, 2);
      canvas.getContext('2d');
      const png = new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer());
      const picture = btoa(String.fromCharCode(...png));
      const body = JSON.stringify({ word: 'WAITS-STAMP', picture });
      const answer = await fetch('/stamps', { method: 'POST', body });
      if (!answer.ok) throw new Error(await answer.text());
    });
    await tamsin.reload();
    await tamsin.getByRole('button', { name: 'Stamps' }).click();
    await tamsin.getByRole('button', { name: 'WAITS-STAMP' }).click();
    await tamsin.getByRole('button', { name: 'on part 1' }).click();
    await tamsin.getByRole('img', { name: /WAITS-STAMP/ }).waitFor();
    await tamsin
      .getByRole('button', { name: /^(Score|Change) part \d/ })
      .first()
      .click();
    await tamsin.getByRole('textbox', { name: 'Points', exact: true }).first().fill('1');
    await tamsin.getByLabel(/^(A word on it|Why; it goes back)/).fill('WAITS-REASON');
    await tamsin.getByRole('button', { name: 'Save', exact: true }).first().click();
    await tamsin.getByText('WAITS-REASON').waitFor();

    // Every copy of 8B is marked by two now.
    await openFirst('8B', 'A light’s character');
    await tamsin.getByRole('link', { name: 'Hand back …' }).click();
    await tamsin.waitForURL(/hand-back$/);
    await tamsin.goto(tamsin.url().replace(/hand-back$/, 'markers'));
    await tamsin.getByRole('button', { name: 'Deal anew …' }).click();
    await tamsin.getByLabel('Marked by two').fill('25');
    await tamsin.getByRole('button', { name: 'Deal 25 copies' }).click();
    await tamsin.getByText('The copies are dealt.').waitFor();
    const apart = await openFirst('8B', 'A light’s character');
    await tamsin.getByText(/without seeing what the other gives/).waitFor();
    const other = await enterAs(apart);
    const shared = copyOf();
    await other.goto(shared);
    const criterion = tamsin.getByRole('radiogroup', { name: 'Timing' });
    await criterion.locator('label').last().click();
    await tamsin.getByLabel('Words on Timing').fill('WAITS-APART');
    await tamsin.getByRole('button', { name: 'Save', exact: true }).click();
    await tamsin.getByRole('button', { name: 'Saved', exact: true }).waitFor();

    await goThrough(student, copy);
    await goThrough(other, shared);
    const secret = ['WAITS-STAMP', 'WAITS-REASON', 'WAITS-APART', 'score_apart'];
    expect(between.heardOf(secret)).toEqual([]);
    await tamsin.goto(marking);
    await tamsin.getByRole('button', { name: /^Hand back/ }).click();
    await student.goto(copy);
    await student.getByText('WAITS-STAMP').first().waitFor();
    await student.getByText('WAITS-REASON').waitFor();
    expect(between.heardOf(secret).sort()).toEqual(['WAITS-REASON', 'WAITS-STAMP']);
  });
});
