import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { PASSWORD } from '../../demo/people';
import { focusedName, pressTo, reach } from '../support/keys';
import { useStage } from '../support/stage';

const stage = useStage();

const arrowTo = (page: Page, key: string, name: RegExp) => pressTo(page, key, name, 30);
const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();

async function signInByKeys(name: string): Promise<Page> {
  const { page } = await stage.enter();
  await page.goto('/sign-in');
  await reach(page, /^Name/);
  await page.keyboard.type(name);
  await page.keyboard.press('Tab');
  await page.keyboard.type(PASSWORD);
  await page.keyboard.press('Enter');
  await page.waitForURL(/desk|work/);
  return page;
}

describe('by keyboard alone', () => {
  it('a whole run of the slice passes', async () => {
    const teacher = await signInByKeys('tamsin.orrey');
    await reach(teacher, /^Hand out something/);
    await teacher.keyboard.press('Enter');
    await reach(teacher, /^Coast & Chart/);
    await teacher.keyboard.press('Enter');
    await sees(teacher, 'Beach profile');
    await reach(teacher, /^Hand out: Beach profile/);
    await teacher.keyboard.press('Enter');
    await reach(teacher, /^In 8C/);
    await teacher.keyboard.press('Enter');
    await reach(teacher, /^Points/);
    await teacher.keyboard.type('10');
    await reach(teacher, /^Hand out now/);
    await teacher.keyboard.press('Enter');
    await teacher.getByRole('button', { name: /^Fennick, Ada, Beach profile/ }).waitFor();

    const student = await signInByKeys('ada.fennick');
    await reach(student, /Beach profile/);
    await student.keyboard.press('Enter');
    await student.locator('.ProseMirror').waitFor();
    await reach(student, /your copy/);
    // Into the first place for text by the arrow keys, then from answer to answer by Tab.
    await student.keyboard.press('ControlOrMeta+Home');
    for (let i = 0; i < 40; i++) {
      await student.keyboard.press('ArrowDown');
      const within = await student.evaluate(() => {
        const node = getSelection()?.anchorNode;
        const element = node instanceof Element ? node : node?.parentElement;
        return Boolean(element?.closest('.answer-number'));
      });
      if (within) break;
    }
    await student.keyboard.type('4.5');
    await student.keyboard.press('Tab');
    await student.keyboard.type('The storms take the berm away in winter.');
    await sees(student, 'everything is saved');
    await reach(student, /^(gain|lose)/);
    await student.keyboard.press('Space');
    await reach(student, /^Hand in/);
    await student.keyboard.press('Enter');
    await student.getByRole('dialog').waitFor();
    await reach(student, /^Hand in/);
    await student.keyboard.press('Enter');
    await student.getByRole('button', { name: 'Take back' }).waitFor();

    await teacher
      .getByRole('button', { name: /^Fennick, Ada, Beach profile.*handed in/ })
      .waitFor();
    // Tab reaches the board once; the arrow keys go from cell to cell.
    await reach(teacher, /^Abernathy, Isla, /);
    await arrowTo(teacher, 'ArrowRight', /, Beach profile/);
    await arrowTo(teacher, 'ArrowDown', /^Fennick, Ada/);
    await teacher.keyboard.press('Tab');
    expect(await focusedName(teacher)).not.toMatch(/Beach profile/);
    await teacher.keyboard.press('Shift+Tab');
    expect(await focusedName(teacher)).toMatch(/^Fennick, Ada, Beach profile/);
    await teacher.keyboard.press('Enter');
    await teacher.getByRole('link', { name: 'Open copy' }).waitFor();
    await reach(teacher, /^Open copy/);
    await teacher.keyboard.press('Enter');
    await teacher.getByRole('heading', { level: 1, name: 'Ada Fennick' }).waitFor();
    await reach(teacher, /Ada Fennick’s copy/);
    await teacher.keyboard.press('ControlOrMeta+Home');
    await teacher.keyboard.press('Shift+ArrowDown');
    await teacher.getByRole('textbox', { name: /^On “/ }).waitFor();
    await teacher.keyboard.press('c');
    await teacher.keyboard.type('Well measured.');
    await reach(teacher, /^Add comment/);
    await teacher.keyboard.press('Enter');
    await sees(student, 'Well measured.');
    await reach(teacher, /^Points/);
    await teacher.keyboard.type('9');
    await teacher.keyboard.press('Enter');
    await sees(student, '9 of 10 points');
  });
});
