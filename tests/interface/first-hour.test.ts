import type { Page } from 'playwright-core';
import { expect, it } from 'vitest';
import { reach } from '../support/keys';
import { useStage } from '../support/stage';

const stage = useStage(async () => ({ UNCIA_FIRST: 'administrator' }));

const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();

/** Presses the button or link of that name, reached by Tab. */
async function press(page: Page, name: RegExp) {
  await reach(page, name);
  await page.keyboard.press('Enter');
}
/** Types into the field of that name, reached by Tab. */
async function fill(page: Page, name: RegExp, text: string) {
  await reach(page, name);
  await page.keyboard.type(text);
}
/** The days of a term that has begun, and lasts for weeks: less than a year in all. */
function termDays(now = new Date()): [string, string] {
  const year = now.getFullYear();
  return now < new Date(year, 11, 1)
    ? [`1 Jan ${year}`, `12/12/${year}`]
    : [`1 Nov ${year}`, `10/10/${year + 1}`];
}

async function signInByKeys(name: string, password: string): Promise<Page> {
  const { page } = await stage.enter();
  await page.goto('/sign-in');
  await fill(page, /^Name/, name);
  await fill(page, /^Password/, password);
  await page.keyboard.press('Enter');
  await page.waitForURL((url) => url.pathname !== '/sign-in');
  return page;
}

/** The rows of "New passwords, shown this once": who, signs in as, password. */
async function passwordsOn(page: Page) {
  await sees(page, 'New passwords, shown this once');
  const rows = await page.locator('section[aria-labelledby="passwords"] tbody tr').all();
  return Promise.all(
    rows.map(async (row) => {
      const [name = '', signInName = '', password = ''] = await row.locator('td').allInnerTexts();
      return { name, signInName, password };
    }),
  );
}

it('a new school gets from its first link to a page in a student’s hands, by keyboard', async () => {
  const link = /http\S+\/welcome\/\S+/.exec(stage.server.output)?.[0] ?? '';
  const { page: office } = await stage.enter();
  await office.goto(new URL(link).pathname);
  await fill(office, /^The school’s name/, 'Greyhaven "High" School');
  await fill(office, /^Your given name/, 'Sol');
  await fill(office, /^Your family name/, "O'Petrakis");
  await fill(office, /^The name you will/, 'sol');
  await fill(office, /^A password/, 'password');
  await office.keyboard.press('Enter');
  await sees(office, 'one that many people use');
  await fill(office, /^A password/, 'quiet-harbour-9');
  await office.keyboard.press('Enter');
  await office.waitForURL('**/school');

  // The first view says what comes next, and leads there.
  await press(office, /^Open the calendar/);
  await fill(office, /^Name of another term/, 'Autumn');
  const [begins, ends] = termDays();
  await fill(office, /^Another term begins/, begins);
  await fill(office, /^Another term ends/, ends);
  await press(office, /^Add another term/);
  await sees(office, 'Autumn');
  await reach(office, /^The school’s clock/);
  expect(await office.getByLabel('The school’s clock').inputValue()).not.toBe('');
  await office.keyboard.press('Control+a');
  await office.keyboard.type('utc');
  await office.getByRole('option', { name: 'UTC' }).waitFor();
  await office.keyboard.press('Escape');
  await press(office, /^People/);
  await press(office, /^Add teachers/);
  await fill(office, /^Given name/, 'Tamsin');
  await fill(office, /^Family name$/, 'Orrey');
  await fill(office, /^How students call them/, 'Ms Orrey');
  await office.keyboard.press('Enter');
  const [made] = await passwordsOn(office);
  expect(made).toMatchObject({ name: 'Tamsin Orrey', signInName: 'tamsin.orrey' });
  // Many at once, from a file.
  await reach(office, /^Or many teachers/);
  const files = async (patience: number) => {
    const asked = office.waitForEvent('filechooser', { timeout: patience });
    await office.keyboard.press('Enter');
    return asked;
  };
  // On a machine that is very busy the browser may let the first press of the key go.
  const chooser = await files(10_000).catch(() => files(45_000));
  await chooser.setFiles({
    name: 'staff.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Given name,Family name\nIdris,Halvorsen\nBea,Lindqvist\nTamsin,Orrey\n'),
  });
  await press(office, /^Add from the file/);
  await sees(office, '2 teachers are new');
  await press(office, /^Give 2 a first password/);
  expect((await passwordsOn(office)).map(({ signInName }) => signInName)).toEqual([
    'idris.halvorsen',
    'bea.lindqvist',
  ]);

  const teacher = await signInByKeys(made?.signInName ?? '', made?.password ?? '');
  await press(teacher, /^Create a course/);
  await fill(teacher, /^Title of a new course/, 'Coast & Chart');
  await teacher.keyboard.press('Enter');
  await sees(teacher, 'Coast & Chart');
  await press(teacher, /^Desk/);
  await press(teacher, /^Create a class/);
  await fill(teacher, /^Name, such as/, '8C');
  await press(teacher, /^Create class/);
  await teacher.waitForURL('**/roster');
  await press(teacher, /^Enter names by hand/);
  await fill(teacher, /^Names, one on a line/, 'Fennick, Ada\nO’Bastrop, Noor "Nell"');
  await press(teacher, /^Preview changes/);
  await sees(teacher, 'joins · line 1');
  await press(teacher, /^Save these 2 changes/);
  await sees(teacher, '2 changes are made');
  await press(teacher, /^Give 2 a first password/);
  const [ada] = await passwordsOn(teacher);
  expect(ada?.signInName).toBe('ada.fennick');

  await press(teacher, /^Desk/);
  await press(teacher, /^Hand out$/);
  await press(teacher, /^Write one there/);
  await fill(teacher, /^Title of a new page/, 'Harbour sketch');
  await teacher.keyboard.press('Enter');
  await teacher.getByRole('textbox', { name: 'Harbour sketch, the original' }).focus();
  await teacher.keyboard.type('What do you see from the quay?');
  await press(teacher, /^Hand out in 8C/);
  await press(teacher, /^Hand out now/);
  await sees(teacher, '8C is closed.');
  await press(teacher, /^Open 8C now/);
  await teacher.getByText('8C is closed.').waitFor({ state: 'detached' });

  const student = await signInByKeys('ada.fennick', ada?.password ?? '');
  await press(student, /^Harbour sketch/);
  await sees(student, 'What do you see from the quay?');
});
