import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { enterAnswer, saved, useStage } from '../support/stage';

const stage = useStage();

const moment = (page: Page) => page.getByRole('document', { name: 'The page at this moment' });

async function lookBack(page: Page) {
  await page.getByRole('button', { name: 'How it was written' }).click();
  await moment(page).waitFor();
}

describe('how a copy was written', () => {
  it('is looked through by its student, who puts a moment back and the later one again', async () => {
    const { page } = await stage.enter('teo.calloway');
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    const writing = page.locator('.answer-writing').first();
    await writing.click();
    const [long, gone] = ['The quay is long.', 'Gone.'];
    await page.keyboard.type(long);
    await saved(page);
    for (let i = 0; i < long.length; i++) await page.keyboard.press('Backspace');
    await page.keyboard.type(gone);
    await saved(page);
    await lookBack(page);
    await page.getByText('As it stands now').waitFor();
    const slider = page.getByRole('slider', { name: 'Moment' });
    expect(await slider.getAttribute('aria-valuetext')).toMatch(
      /^Teo Calloway, .* characters added/,
    );
    // By mouse, to the first of the sittings: of a copy that was not written before, there is one.
    const at = () => slider.getAttribute('aria-valuenow');
    await slider.focus();
    await page.keyboard.press('Home');
    await expect.poll(at).toBe('0');
    await page.getByTitle('Teo Calloway').first().click();
    await expect.poll(at).not.toBe('0');
    // Back by keyboard, to before all was deleted.
    await slider.focus();
    const shown = async () => (await moment(page).textContent()) ?? '';
    for (let i = 0; i < 60 && !(await shown()).includes(long); i++) {
      await page.keyboard.press('ArrowLeft');
      await page.locator('[aria-busy=false]', { has: moment(page) }).waitFor();
    }
    expect(await shown()).toContain(long);
    expect(await shown()).not.toContain(gone);
    await page.getByLabel('Name of this version').fill('The long quay’s “version”');
    await page.getByRole('button', { name: 'Save name' }).click();
    await page
      .getByRole('button', { name: /^The long quay’s “version”, Teo Calloway/, pressed: true })
      .waitFor();
    await page.getByRole('button', { name: 'Put this back' }).click();
    await page.getByText('The page is put back.').waitFor();
    const mine = page.getByRole('textbox', { name: /your copy/ });
    await expect.poll(() => mine.textContent()).toContain(long);
    await page.getByRole('button', { name: /^before it was put back/ }).click();
    await expect.poll(shown).toContain(gone);
    await page.getByRole('button', { name: 'Put this back' }).click();
    await expect.poll(() => mine.textContent()).toContain(gone);
    await expect.poll(() => mine.textContent()).not.toContain(long);
    // What was put back is written on in the same editor.
    await writing.click();
    await page.keyboard.type('And more. ');
    await saved(page);
  });

  it('is looked through by the teacher; the student sees the page change and is told by whom', async () => {
    const { page: student } = await stage.enter('luca.marchetti');
    await student.getByRole('link', { name: 'Rule of twelfths' }).first().click();
    const copy = student.getByRole('textbox', { name: /your copy/ });
    await copy.waitFor();
    // What is only proposed there stands beside the page.
    const written = () =>
      copy.evaluate((page) => {
        const own = page.cloneNode(true) as HTMLElement;
        for (const proposed of own.querySelectorAll('ins')) proposed.remove();
        return own.textContent;
      });
    const before = await written();
    const { page: teacher } = await stage.enter('tamsin.orrey');
    const id = new URL(student.url()).pathname.split('/').at(-1) ?? '';
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.waitForURL(/classes\/[^/]+$/);
    await teacher.goto(`${teacher.url()}/marking/${id}`);
    await lookBack(teacher);
    await teacher.getByRole('button', { name: /^handed out/ }).click();
    await teacher.getByText('As it stood when it was handed out').waitFor();
    await teacher.getByRole('button', { name: 'Put this back' }).click();
    await expect.poll(written).not.toBe(before);
    await student.goto('/mailbox');
    await student.getByText('Put back as it stood before: Rule of twelfths').waitFor();
    await student.getByText('Ms Orrey did it.').waitFor();
    await teacher.getByRole('button', { name: /^before it was put back, Ms Orrey/ }).click();
    await teacher.getByRole('button', { name: 'Put this back' }).click();
    await student.goBack();
    await expect.poll(written).toBe(before);
  });

  it('is undone over a reload, and what a page lost at once is put back', async () => {
    const { page } = await stage.enter('wren.yardley');
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    const writing = page.locator('.answer-writing').first();
    await enterAnswer(page, writing);
    const long = 'The quay is long, and the boats lie two and two beside it when the tide is out. ';
    await page.keyboard.type(long.repeat(2));
    await saved(page);
    const mine = page.getByRole('textbox', { name: /your copy/ });
    const whole = (await mine.textContent()) ?? '';
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('x');
    await saved(page);
    // Not a word is left, and the page was closed; undo reaches into the sitting before.
    await page.reload();
    const lost = page.getByRole('region', { name: 'What this page lost' });
    await lost.getByText(/of \d\d words/).waitFor();
    await mine.click();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(() => mine.textContent()).toBe(whole);
    await lost.waitFor({ state: 'detached' });
    await page.keyboard.press('ControlOrMeta+z');
    // How much of the typing one step back takes goes by the pauses in it.
    await expect.poll(() => mine.textContent()).not.toBe(whole);
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect.poll(() => mine.textContent()).toBe(whole);
    await saved(page);
    await enterAnswer(page, writing);
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.press('Delete');
    await lost.waitFor();
    await lost.getByRole('button', { name: 'Put back what this page lost' }).click();
    await expect.poll(() => mine.textContent()).toBe(whole);
    await lost.waitFor({ state: 'detached' });
  });

  it('is known of an original, too, whose wiped page comes back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.goto('/courses');
    await page.getByRole('link', { name: 'Coast & Chart' }).click();
    await page.getByRole('link', { name: 'Beach profile' }).first().click();
    const original = page.locator('.ProseMirror').first();
    await original.click();
    const before = (await original.textContent()) ?? '';
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('Gone.');
    await saved(page);
    await lookBack(page);
    await page.getByRole('button', { name: /^begun/ }).click();
    await expect.poll(() => moment(page).textContent()).toBe(before);
    await page.getByRole('button', { name: 'Put this back' }).click();
    await page.getByText('The page is put back.').waitFor();
    await expect.poll(() => original.textContent()).toBe(before);
  });

  it('is seen by a marker, who cannot put it back; away from the server it says so', async () => {
    const { page, context } = await stage.enter('bea.lindqvist');
    await page.getByRole('link', { name: /^Mark: A light’s character/ }).click();
    await page.waitForURL(/marking/);
    await lookBack(page);
    await page.getByRole('button', { name: /^handed out/ }).click();
    await page.getByText('As it stood when it was handed out').waitFor();
    expect(await page.getByRole('button', { name: 'Put this back' }).count()).toBe(0);
    await page.getByRole('button', { name: 'How it was written' }).click();
    await context.setOffline(true);
    await page.getByRole('button', { name: 'How it was written' }).click();
    await page.getByText('The server does not answer. Please try again.').waitFor();
    await context.setOffline(false);
  });

  it('is told by person: who wrote which words of a page that several share, and what share of it', async () => {
    const { page: ada } = await stage.enter('ada.fennick');
    const { page: dayo } = await stage.enter('dayo.lomax');
    const type = async (page: Page, words: string) => {
      await page.getByRole('link', { name: /^Pilot book page/ }).click();
      await enterAnswer(page, page.locator('.answer-writing').nth(1));
      await page.keyboard.type(words);
      await saved(page);
    };
    await type(ada, 'Shelter behind the mole. ');
    await type(dayo, 'Not in a north wind. ');
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.getByRole('button', { name: /^Fennick, Ada, Pilot book page/ }).click();
    await teacher.getByRole('link', { name: 'Open copy' }).click();
    await lookBack(teacher);
    await teacher.getByText('Who wrote what', { exact: true }).click();
    const marked = async () => (await teacher.locator('.written').allTextContents()).join('|');
    const writer = (name: RegExp) =>
      teacher.getByRole('list', { name: 'Who wrote' }).getByRole('button', { name });
    await writer(/Ada Fennick/).click();
    await expect.poll(marked).toContain('Shelter behind the mole. ');
    expect(await marked()).not.toContain('north wind');
    await writer(/Dayo Lomax/).click();
    await expect.poll(marked).toBe('Not in a north wind. ');
    await writer(/Dayo Lomax.*21 characters here; 21 written in 1 sitting/).waitFor();
    await teacher.locator('.written[title^="Dayo Lomax, "]').waitFor();
    // Before he wrote, nothing of it was there.
    await teacher.getByRole('button', { name: /^handed out/ }).click();
    await teacher.getByText('0 characters here; 21 written').waitFor();
  });

  it('is played, and any two of its moments are compared; one part of it is put back, and a passage', async () => {
    const { page } = await stage.enter('malik.garrow');
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    const mine = page.getByRole('textbox', { name: /your copy/ });
    const writing = page.locator('.answer-writing').first();
    await enterAnswer(page, writing);
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('The quay is long and old.');
    await saved(page);
    // A number, and a few words that come from elsewhere.
    await enterAnswer(page, page.locator('.answer-number').first());
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('9.9');
    await enterAnswer(page, writing);
    await page.keyboard.press('ControlOrMeta+End');
    await page.evaluate(() => {
      const clipboardData = new DataTransfer();
      clipboardData.setData('text/plain', ' Boats lie there.');
      document
        .querySelector('.ProseMirror')
        ?.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
        );
    });
    await saved(page);
    await lookBack(page);
    await page.getByText(/pasted: 17 characters at/).waitFor();
    await page
      .getByRole('textbox', { name: 'Name of this version' })
      .waitFor({ state: 'detached' });

    // All is lost at once, and is looked for.
    await enterAnswer(page, writing);
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('Gone.');
    await enterAnswer(page, page.locator('.answer-number').first());
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('1');
    await saved(page);
    await page.getByRole('button', { name: 'How it was written' }).click();
    await lookBack(page);
    await page.getByText('What changed', { exact: true }).click();
    const compared = page.getByRole('document', { name: 'The page, with what changed' });
    await compared.locator('ins', { hasText: 'Gone.' }).waitFor();
    // From the moment before the loss: dragged by keys at the first of the two ends.
    const from = page.getByRole('slider', { name: 'From this moment' });
    await from.focus();
    await page.keyboard.press('End');
    for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowLeft');
    await compared.locator('del', { hasText: 'The quay is long and old' }).waitFor();
    expect(await from.getAttribute('aria-valuetext')).toContain('Malik Garrow');
    await page.getByText('One by one').click();
    await page
      .getByRole('listitem')
      .filter({ hasText: 'The quay is long' })
      .getByRole('button', { name: 'Put back' })
      .click();
    await page.getByText('The passage is put back.').waitFor();
    await expect.poll(() => writing.textContent()).toContain('The quay is long and old.');
    expect(await page.locator('.answer-number').first().textContent()).toBe('1');

    // One part, by pressing on it as it stood.
    await page.getByText('The page', { exact: true }).click();
    const slider = page.getByRole('slider', { name: 'Moment' });
    await slider.focus();
    const number = moment(page).locator('.answer-number').first();
    for (let i = 0; i < 12 && (await number.textContent()) !== '9.9'; i++) {
      await page.keyboard.press('ArrowLeft');
      await page.locator('[aria-busy=false]', { has: moment(page) }).waitFor();
    }
    await number.click();
    await page.getByRole('button', { name: /^Put part \d back$/ }).click();
    await page.getByText(/^Part \d is put back\./).waitFor();
    await expect.poll(() => page.locator('.answer-number').first().textContent()).toBe('9.9');
    expect(await mine.textContent()).toContain('The quay is long and old.');

    // From the beginning to the end, as fast as it goes.
    await page.getByRole('button', { name: /^handed out/ }).click();
    await expect.poll(() => moment(page).textContent()).not.toContain('The quay is long');
    await page.getByText('60×').click();
    await page.getByRole('button', { name: 'Play' }).click();
    await page.getByRole('button', { name: 'Pause' }).waitFor();
    await page.getByText('As it stands now').waitFor();
    await page.getByRole('button', { name: 'Play' }).waitFor();
    expect(await moment(page).textContent()).toContain('The quay is long and old.');
  });

  it('is compared with another’s copy by staff, and by no student', async () => {
    const { page: student } = await stage.enter('noor.bastrop');
    await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await student.waitForURL(/work\/[\w-]+$/);
    const id = new URL(student.url()).pathname.split('/').at(-1) ?? '';
    const choose = async (page: Page) => {
      await lookBack(page);
      await page.getByText('What changed', { exact: true }).click();
      await page.getByRole('combobox', { name: 'Compared with' }).click();
    };
    await choose(student);
    await student.getByRole('option', { name: /^handed out/ }).waitFor();
    expect(await student.getByRole('option', { name: 'Ada Fennick' }).count()).toBe(0);
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.waitForURL(/classes\/[^/]+$/);
    await teacher.goto(`${teacher.url()}/marking/${id}`);
    await choose(teacher);
    const option = teacher.getByRole('option', { name: 'Ada Fennick' });
    await option.click();
    await teacher.getByText('What this copy has that the other has not').waitFor();
    await teacher.getByText(/passages differ/).waitFor();
    await teacher.locator('ins').first().waitFor();
    expect(await teacher.getByRole('button', { name: 'Put back' }).count()).toBe(0);
    // The list lies above the page.
    await teacher.getByRole('combobox', { name: 'Compared with' }).click();
    await teacher.getByRole('option', { name: 'Teo Calloway' }).click();
    await teacher
      .getByText(/differ/)
      .first()
      .waitFor();
  });
});
