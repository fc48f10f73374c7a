import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { beginOriginal } from '../support/begin-original';
import { PASSWORD } from '../../demo/people';
import { enterAnswer, selectWords, useStage } from '../support/stage';

const stage = useStage();
/** A picture of one point. */
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

/** Waits until a text is seen. */
const sees = (page: Page, text: string | RegExp) => page.getByText(text).first().waitFor();
const saved = (page: Page) => sees(page, 'everything is saved');

async function writeOriginal(teacher: Page, title: string) {
  await beginOriginal(teacher, title);
  await teacher.keyboard.type('How high is the spring tide?');
  await teacher.keyboard.press('Enter');
  const place = async (kind: string) => {
    await teacher.getByRole('button', { name: 'A place for an answer' }).click();
    await teacher.getByRole('button', { name: kind }).click();
  };
  await place('Number with a unit');
  await teacher.getByLabel('Unit', { exact: true }).fill('m');
  await teacher.getByLabel('Expected', { exact: true }).fill('4.4');
  await teacher.getByLabel('Tolerance').fill('0.1');
  await teacher.getByLabel('Tolerance').press('Tab');
  await sees(teacher, 'key set');
  await place('Long writing');
  await saved(teacher);
}

describe('the slice, with two browsers at once', () => {
  it('goes from an original to a regraded copy', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const { page: student } = await stage.enter('ada.fennick');
    const title = 'Springs & neaps: “why” <b>';
    await writeOriginal(teacher, title);

    await teacher.getByRole('button', { name: `Hand out: ${title}` }).click();
    await teacher.getByRole('link', { name: 'In 8C' }).click();
    await sees(teacher, '23 copies');
    await teacher.getByLabel('Points', { exact: true }).fill('7½');
    await teacher.getByLabel('Instructions').fill('Two sentences will do.');
    await teacher.getByRole('button', { name: 'Hand out now' }).click();
    await teacher.getByRole('heading', { name: '8C Coast & Chart' }).waitFor();
    await teacher.getByRole('button', { name: `Fennick, Ada, ${title}: unopened` }).waitFor();

    // It appears before the student by itself.
    await student.getByRole('link', { name: title }).click();
    await sees(student, 'Two sentences will do.');
    await teacher.getByRole('button', { name: `Fennick, Ada, ${title}: opened` }).waitFor();
    await enterAnswer(student, student.locator('.answer-number'));
    await student.keyboard.type('4,3');
    await enterAnswer(student, student.locator('.answer-writing'));
    await student.keyboard.type('The moon and the sun pull together, so the water stands higher.');
    await saved(student);
    await sees(student, '1 of 2 parts done');
    await teacher
      .getByRole('button', { name: new RegExp(`Fennick, Ada, ${title}: 1 of 2.*writing now`) })
      .click();
    await sees(teacher, 'The moon and the sun pull together');

    await student.getByRole('button', { name: 'Hand in', exact: true }).click();
    await student.getByLabel(/A note to/).fill('I was at sea on Monday.');
    await student.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await student.getByRole('button', { name: 'Take back' }).waitFor();
    await teacher
      .getByRole('button', { name: new RegExp(`Fennick, Ada, ${title}: handed in`) })
      .waitFor();

    await teacher.getByRole('link', { name: 'Open copy' }).click();
    await sees(teacher, 'I was at sea on Monday.');
    await teacher.getByTitle('agrees with your key').waitFor();
    await selectWords(teacher, 'pull together');
    await teacher
      .getByRole('textbox', { name: /On “pull together”/ })
      .fill('In one line, or at right angles?');
    await teacher.getByRole('button', { name: 'Add comment' }).click();
    await sees(student, 'In one line, or at right angles?');
    // What is said next is on the whole copy again, not on words that nobody chose anew.
    await teacher.getByRole('textbox', { name: /^On the whole copy/ }).waitFor();
    await teacher.getByLabel('Points', { exact: true }).fill('6,5');
    await teacher.getByRole('button', { name: 'Hand back', exact: true }).click();

    await sees(student, '6½');
    await student.getByRole('textbox', { name: 'Reply' }).fill('In one line.');
    await student.getByRole('button', { name: 'Send' }).click();
    await sees(teacher, 'In one line.');
    // The words move; the comment stays on them.
    await enterAnswer(student, student.locator('.answer-writing p'));
    await student.keyboard.press('Home');
    await student.keyboard.type('At new moon: ');
    await saved(student);
    expect(await teacher.locator('.thread-words').textContent()).toBe('pull together');
    expect(await student.locator('.thread-words').textContent()).toBe('pull together');
    await sees(teacher, 'At new moon: ');
    await student.getByRole('button', { name: 'Settle' }).click();
    await sees(teacher, '1 settled');
    await student.getByRole('button', { name: 'Hand in again' }).click();
    await student.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();

    await teacher.getByRole('link', { name: /^Fennick, Ada ?, handed in/ }).waitFor();
    await teacher.getByLabel('Points', { exact: true }).fill('7½');
    await teacher.getByRole('button', { name: 'Hand back', exact: true }).click();
    await student
      .getByText(/^7½ of/)
      .first()
      .waitFor();
    await sees(teacher, 'scored 6½');
    await sees(teacher, 'scored 7½');
  });

  it('shows the next and the previous student by keys, and says where one is', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: /^Mark: A light’s character/ }).click();
    await teacher.waitForURL(/marking/);
    const heading = teacher.getByRole('heading', { level: 1 });
    const first = await heading.textContent();
    await teacher.keyboard.press(']');
    await teacher
      .getByRole('heading', { level: 1 })
      .filter({ hasNotText: first ?? '' })
      .waitFor();
    await teacher.keyboard.press('[');
    await teacher.getByRole('heading', { level: 1, name: first ?? '' }).waitFor();
  });
});

describe('a student at her copy', () => {
  it('cannot change the teacher’s text, and Tab goes from answer to answer', async () => {
    const { page } = await stage.enter('teo.calloway');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    const guarded = page.getByText('Give the depths along the quay');
    await guarded.click();
    await page.keyboard.type('spoilt');
    await page.keyboard.press('Backspace');
    expect(await guarded.textContent()).toBe('Give the depths along the quay, from the chart.');
    await enterAnswer(page, page.locator('.answer-number').first());
    await page.keyboard.type('1.2');
    await page.keyboard.press('Tab');
    await page.keyboard.type('2.4');
    await page.keyboard.press('Enter');
    await page.keyboard.type('0.6');
    expect(await page.locator('.answer-number').allTextContents()).toEqual([
      '1.2',
      '2.4',
      '0.6',
      '',
    ]);
    await page.getByRole('radio', { name: 'the end light' }).check();
    await page.getByRole('radio', { name: 'the headland' }).check();
    await sees(page, '4 of 7 parts done');
    await saved(page);
    await page.reload();
    await page.getByRole('radio', { name: 'the headland', checked: true }).waitFor();
    expect(await page.getByRole('radio', { checked: true }).count()).toBe(1);
  });

  it('keeps what she writes while there is no connection, over a closed page', async () => {
    const { page, context } = await stage.enter('mateo.varga');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await page.locator('.answer-writing').click();
    await saved(page);
    await context.setOffline(true);
    await page.keyboard.type('Written on the bus without a net.');
    await sees(page, 'your words are kept in this browser');
    const address = page.url();
    await page.close({ runBeforeUnload: false });
    await context.setOffline(false);
    const again = await context.newPage();
    await again.goto(address);
    await sees(again, 'Written on the bus without a net.');
    const elsewhere = await stage.enter('tamsin.orrey');
    const answer = await elsewhere.page.request.get(`/pages/${address.split('/').at(-1)}`);
    expect(await answer.text()).toContain('Written on the bus without a net.');
  });

  it('says why her words are not saved yet, and nothing of it once they are', async () => {
    const { page, context } = await stage.enter('una.ulvik');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    const status = page.locator('footer').getByRole('status');
    await page.locator('.answer-writing').click();
    await context.setOffline(true);
    await page.keyboard.type('On the bus. ');
    await status.getByText('no connection').waitFor();
    await page.keyboard.type('Still on it. ');
    expect(await status.innerText()).toContain('no connection');
    await page.getByRole('button', { name: 'Hand in', exact: true }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await sees(page, 'This was not done, because your words are not saved yet.');
    await context.setOffline(false);
    await status.getByText('everything is saved').waitFor();
    await page.getByText('This was not done').waitFor({ state: 'detached' });

    await context.clearCookies();
    await enterAnswer(page, page.locator('.answer-writing'));
    await page.keyboard.type('Signed out meanwhile. ');
    await status.getByText('you are signed out').waitFor();
    const again = await context.newPage();
    const signIn = await status.getByRole('link', { name: 'Sign in' }).getAttribute('href');
    await again.goto(signIn ?? '');
    await again.getByRole('textbox', { name: 'Name' }).fill('una.ulvik');
    await again.getByLabel('Password').fill(PASSWORD);
    await again.getByRole('button', { name: 'Sign in', exact: true }).click();
    await sees(again, 'Signed out meanwhile.');
    await status.getByText('everything is saved').waitFor();
    await expect.poll(() => page.getByRole('alert').count()).toBe(0);
  });

  it('is told that the page’s own text stays, and selects her own answer alone', async () => {
    const { page } = await stage.enter('viggo.ekholm');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    const answer = page.locator('.answer-writing');
    await answer.click();
    await page.keyboard.type('First words.');
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('Better words.');
    await answer.getByText(/^Better words\.$/).waitFor();
    // What cannot be read as a number is said at once, and not what can.
    const depths = page.locator('.answer-number');
    await depths.nth(0).click();
    // The editor is told of a selection after the click, and a hand is never as fast as this one.
    await expect
      .poll(() => depths.nth(0).evaluate((one) => one.contains(getSelection()?.anchorNode ?? null)))
      .toBe(true);
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('two');
    await page.locator('.answer-unreadable').waitFor();
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('１２０ cm');
    await page.locator('.answer-unreadable').waitFor({ state: 'detached' });
    await page.locator('.ProseMirror').getByText('Give the depths').click();
    await page.keyboard.type('x');
    await sees(page, 'The page’s own text stays as it is.');
    await saved(page);
    expect(await page.locator('.ProseMirror').innerText()).toContain('Give the depths along');
  });

  it('gets back the words that came too late, because the copy was handed in elsewhere', async () => {
    const { page, context } = await stage.enter('june.hesper');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await page.locator('.answer-writing').click();
    await saved(page);
    const address = page.url();
    await context.setOffline(true);
    await page.keyboard.type('Too late for the bus.');
    await sees(page, 'your words are kept in this browser');
    await page.close({ runBeforeUnload: false });

    const { page: elsewhere } = await stage.enter('june.hesper');
    await elsewhere.goto(address);
    await elsewhere.getByRole('button', { name: 'Hand in', exact: true }).click();
    await elsewhere.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await elsewhere.getByRole('button', { name: 'Take back' }).waitFor();

    await context.setOffline(false);
    const again = await context.newPage();
    await again.goto(address);
    const words = again.getByRole('region', { name: 'Words set aside' });
    await words.getByText('Too late for the bus.').waitFor();
    await words.getByRole('button', { name: 'Insert at the cursor' }).click();
    await words.getByText('Please put the cursor where you can write first.').waitFor();
    await again.getByRole('button', { name: 'Take back' }).click();
    await again.getByRole('button', { name: 'Hand in', exact: true }).waitFor();
    await again.locator('.answer-writing').click();
    await words.getByRole('button', { name: 'Insert at the cursor' }).click();
    await words.waitFor({ state: 'detached' });
    await saved(again);
    await elsewhere.getByText('Too late for the bus.').waitFor();
  });

  it('writes in two tabs of one browser, each keeping its own words', async () => {
    const { page, context } = await stage.enter('una.ulvik');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await page.locator('.answer-writing').click();
    await saved(page);
    const second = await context.newPage();
    await second.goto(page.url());
    await second.locator('.answer-writing').click();
    await saved(second);
    await context.setOffline(true);
    await page.keyboard.type('From the first tab.');
    await sees(page, 'your words are kept in this browser');
    await second.bringToFront();
    await second.keyboard.type('From the second tab.');
    await sees(second, 'your words are kept in this browser');
    await context.setOffline(false);
    for (const tab of [page, second]) {
      await saved(tab);
      await sees(tab, /From the first tab\./);
      await sees(tab, /From the second tab\./);
    }
  });

  it('goes on by herself when the server was away', async () => {
    const { page } = await stage.enter('wren.yardley');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await page.locator('.answer-writing').click();
    await stage.server.kill();
    await page.keyboard.type('Nobody heard this at first.');
    await sees(page, 'your words are kept in this browser');
    await stage.server.up();
    await saved(page);
    expect(
      await (await page.request.get(`/pages/${page.url().split('/').at(-1)}`)).text(),
    ).toContain('Nobody heard this at first.');
  });

  it('takes back what she handed in until the teacher looks', async () => {
    const { page } = await stage.enter('jan.pellworm');
    await page.getByRole('link', { name: 'Harbour sketch' }).click();
    await page.getByRole('button', { name: 'Hand in', exact: true }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await page.getByRole('button', { name: 'Take back' }).click();
    await page.getByRole('button', { name: 'Hand in', exact: true }).waitFor();
    await page.getByRole('button', { name: 'Hand in', exact: true }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await page.getByRole('button', { name: 'Take back' }).waitFor();
    const { page: teacher } = await stage.enter('bea.lindqvist');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.getByRole('button', { name: 'Pellworm, Jan, Harbour sketch: handed in' }).click();
    await teacher.getByRole('link', { name: 'Open copy' }).waitFor();
    await page.getByRole('button', { name: 'Take back' }).waitFor({ state: 'detached' });
  });
});

describe('the editor of a page', () => {
  it('changes and takes off what it put on: lists, cells, links, formulas, choices, code', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await beginOriginal(page, 'All of it');
    const text = page.locator('.ProseMirror').first();
    const button = (name: string) => page.getByRole('button', { name, exact: true });
    const close = async (how: string) => {
      await button(how).click();
      await page.getByRole('dialog').waitFor({ state: 'detached' });
      await expect(text.evaluate((it) => it === document.activeElement)).resolves.toBe(true);
    };
    await page.keyboard.type('- one');
    await page.keyboard.press('Enter');
    await page.keyboard.type('two');
    await text.locator('ul li').nth(1).waitFor();
    await button('Numbered list').click();
    await text.locator('ol li').nth(1).waitFor();
    await button('Numbered list').click();
    await text.locator('ol li').nth(1).waitFor({ state: 'detached' });

    await selectWords(page, 'two');
    await button('Link').click();
    await page.getByLabel('Where it leads').fill('tides.example/two');
    await close('Insert');
    await text.locator('a[href="https://tides.example/two"]').waitFor();
    await button('Link').click();
    expect(await page.getByLabel('Where it leads').inputValue()).toBe('https://tides.example/two');
    await page.getByLabel('Where it leads').fill('javascript:alert(1)');
    await button('Save').click();
    await sees(page, 'A link begins with https://');
    await page.getByLabel('Where it leads').fill('https://tides.example/2');
    await close('Save');
    await text.locator('a[href="https://tides.example/2"]').waitFor();
    await button('Link').click();
    await close('Remove link');
    await text.locator('a').waitFor({ state: 'detached' });

    await text.getByText('two').click();
    await page.keyboard.press('End');
    await page.keyboard.press('Enter');
    await button('Formula').click();
    await page.getByLabel('In TeX').fill('h^2');
    await close('Insert');
    await text.locator('.formula').click();
    await button('Formula').click();
    expect(await page.getByLabel('In TeX').inputValue()).toBe('h^2');
    await page.getByLabel('In TeX').fill('h^3');
    await close('Save');
    await text.locator('.formula annotation', { hasText: 'h^3' }).waitFor({ state: 'attached' });

    await page.keyboard.press('End');
    await page.keyboard.press('Enter');
    await page.keyboard.type('```');
    await page.keyboard.type('10 PRINT');
    await page.keyboard.press('Enter');
    await page.keyboard.type('20 GOTO 10');
    await text.locator('pre', { hasText: '20 GOTO 10' }).waitFor();
    expect(await text.locator('pre').count()).toBe(1);
    await button('Code lines').click();
    await text.locator('pre').waitFor({ state: 'detached' });

    await page.keyboard.press('End');
    await page.keyboard.press('Enter');
    await button('Table').click();
    const rows = text.locator('tr');
    await rows.nth(2).waitFor();
    await text.locator('td').first().click();
    await button('Row above').click();
    await rows.nth(3).waitFor();
    await button('Column left').click();
    await expect.poll(() => rows.nth(1).locator('td').count()).toBe(4);
    expect(await button('Merge cells').isDisabled()).toBe(true);
    await text.locator('td').first().click();
    await page.keyboard.press('Shift+ArrowRight');
    await button('Merge cells').click();
    await text.locator('td[colspan="2"]').waitFor();
    await button('Split cell').click();
    await text.locator('td[colspan="2"]').waitFor({ state: 'detached' });
    await button('Remove table').click();
    await text.locator('table').waitFor({ state: 'detached' });

    await button('A place for an answer').click();
    await button('One of several choices').click();
    const right = page.getByRole('group', { name: 'The right one' });
    await right.getByRole('radio').nth(1).check();
    await sees(page, 'key set');
    await button('Clear the key').click();
    await page.getByText('key set').waitFor({ state: 'detached' });
    await button('Remove the choice second choice').click();
    await expect.poll(() => right.getByRole('radio').count()).toBe(1);
    await button('A place for an answer').click();
    await button('Number with a unit').click();
    // On from there, below what was put there.
    await page.keyboard.press('Enter');
    await page.keyboard.type('And then?');
    await text.locator('.answer-number + p', { hasText: 'And then?' }).waitFor();
    await text.locator('.answer-number').click();
    const expected = page.getByLabel('Expected', { exact: true });
    await expected.fill('4.4 ft');
    await expected.press('Tab');
    await sees(page, '“ft” is a unit: please write it in the field for it.');
    await page.getByLabel('Unit', { exact: true }).fill('ft');
    await page.getByLabel('Unit', { exact: true }).press('Tab');
    await sees(page, 'key set');
    await saved(page);
  });

  it('sizes and describes a picture', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await beginOriginal(page, 'With a picture');
    const light = { name: 'light.png', mimeType: 'image/png', buffer: PIXEL };
    await page.getByLabel('Choose a picture').setInputFiles(light);
    const picture = page.locator('.ProseMirror img');
    await picture.click();
    await page.getByRole('button', { name: 'Size and description' }).click();
    await page.getByLabel('What it shows').fill('A “light” on a rock');
    await page.getByText('25 %', { exact: true }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.locator('img[alt="A “light” on a rock"][data-width="25"]').waitFor();
    await saved(page);
  });

  it('says who else is in a page of a class', async () => {
    const { page: ada } = await stage.enter('ada.fennick');
    const { page: dayo } = await stage.enter('dayo.lomax');
    for (const page of [ada, dayo]) {
      await page.getByRole('link', { name: '8C Coast & Chart', exact: true }).click();
      await page.getByRole('link', { name: 'Words we found' }).click();
    }
    await sees(ada, 'Also here: Dayo Lomax');
    await sees(dayo, 'Also here: Ada Fennick');
    await dayo.getByRole('link', { name: 'My work' }).click();
    await ada.getByText('Also here').waitFor({ state: 'detached' });
  });
});
