import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

const sees = (page: Page, words: string | RegExp) => page.getByText(words).first().waitFor();

async function addLesson(page: Page, klass: string, day: string, [starts, ends]: [string, string]) {
  const lessons = page.getByRole('region', { name: `Lessons of ${klass}` });
  await lessons.getByLabel('Day').selectOption(day);
  await lessons.getByLabel('From').fill(starts);
  await lessons.getByLabel('To').fill(ends);
  await lessons.getByRole('button', { name: 'Add' }).click();
}

describe('the next class', () => {
  it('is built from last year’s for two parallel classes, and handed out to a new student', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByText('Archived · 1').click();
    await page.getByRole('link', { name: /^8C Coast & Chart\s*Autumn term/ }).click();
    await page.getByRole('link', { name: 'Create a class from it' }).click();
    await page.getByLabel('Name, such as 8C').fill('8D');
    await page.getByRole('button', { name: 'A parallel class' }).click();
    await page.getByLabel('Name of class 2').fill('8E "late"');
    const spring = await page.getByRole('option', { name: /^Spring term/ }).textContent();
    await page.getByLabel('Term').selectOption(spring?.trim() ?? '');
    await page.getByRole('button', { name: 'Create classes' }).click();

    // Due times go by lessons, which are entered here; what is wrong with one is said beside it.
    await sees(page, 'no lessons yet');
    await addLesson(page, '8D', 'Tuesday', ['09:50', '09:00']);
    await sees(page, 'The lesson ends before it begins.');
    await addLesson(page, '8D', 'Tuesday', ['09:00', '09:50']);
    await sees(page, 'Tuesday 09:00 to 09:50');
    await addLesson(page, '8D', 'Friday', ['11:00', '11:50']);
    await addLesson(page, '8E "late"', 'Wednesday', ['13:00', '13:50']);
    await sees(page, 'Wednesday 13:00 to 13:50');
    const due = page.getByRole('row', { name: /^Chart symbols/ });
    // The end of the 3rd lesson is Tuesday's in the one, and Wednesday's in the other.
    await due.getByText(/^Tue .*, 09:50$/).waitFor();
    await due.getByText(/^Wed .*, 13:50$/).waitFor();
    await page.getByRole('checkbox', { name: 'Harbour sketch' }).uncheck();
    await sees(page, '8D: 4 units, 5 pages and 3 assignments will come into the class');
    await page.getByRole('button', { name: 'Bring it in' }).click();

    await page.getByRole('link', { name: 'Rule of twelfths' }).waitFor();
    await sees(page, /^draft, due/);
    expect(await page.getByText(/^draft/).count()).toBe(3);
    await page.getByRole('link', { name: 'Roster' }).click();
    await page.getByText('Enter names by hand').click();
    await page.getByLabel('Names, one on a line').fill('Fennick, Ada');
    await page.getByRole('button', { name: 'Preview changes' }).click();
    await page.getByRole('button', { name: /^Save/ }).click();
    await sees(page, 'In the class · 1');
    await page.getByRole('link', { name: 'Plan' }).click();
    await page.getByRole('button', { name: 'Open 8D now' }).click();
    await page.getByRole('button', { name: 'Close class' }).waitFor();
    await page.getByRole('link', { name: 'Rule of twelfths' }).click();
    // What was noted for the next time stands beside it.
    await sees(page, 'Make the second table shorter next time.');
    await page.getByRole('button', { name: 'Hand out now' }).click();
    await page.getByRole('region', { name: 'Board of 8D' }).waitFor();

    const { page: student } = await stage.enter('ada.fennick');
    await student.getByRole('link', { name: /Rule of twelfths 8D/ }).click();
    await sees(student, '0 of 8 parts done');
    expect(await student.getByText('Make the second table').count()).toBe(0);
    // Nothing but what was handed out is seen of it.
    await student.goto('/work');
    expect(await student.getByRole('link', { name: /8D Coast & Chart · / }).count()).toBe(1);

    // In the other class, what came before is not proposed once more.
    await page.getByRole('link', { name: 'Desk' }).click();
    await page.getByRole('link', { name: '8E "late" Coast & Chart', exact: true }).click();
    await page.getByRole('link', { name: 'Plan' }).click();
    await page.getByRole('link', { name: 'Bring in units' }).click();
    await page.getByLabel('From').selectOption({ label: '8A Coast & Chart' });
    await sees(page, '8E "late" already has one of this title.');
    const known = page.getByRole('checkbox', { name: 'Rule of twelfths' });
    expect(await known.isChecked()).toBe(false);
  });
});
