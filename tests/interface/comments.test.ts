import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { holdBack, saved, useStage } from '../support/stage';

const stage = useStage();
const HARBOUR = new URL('../../demo/pictures/harbour.png', import.meta.url);

async function openTeo(page: Page) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8C' });
  await board.getByRole('link', { name: 'A light’s character' }).click();
  await page.getByRole('link', { name: 'Mark', exact: true }).click();
  await choose(page, 'Teo', 'Calloway');
}
/** From the line of students. */
async function choose(page: Page, given: string, family: string) {
  const line = page.getByRole('navigation', { name: 'Students' });
  await line.getByRole('link', { name: `${family}, ${given}` }).click();
  await page.getByRole('textbox', { name: `${given} ${family}’s copy` }).waitFor();
}
const box = (page: Page) => page.getByPlaceholder(/^Comment, or a few letters/);
const add = (page: Page) => page.getByRole('button', { name: 'Add comment' }).click();
const on = (page: Page, what: string) =>
  page.getByRole('article', { name: `Comment on ${what}`, exact: true });

describe('a comment', () => {
  it('shows a formula as it was typed last, whichever drawing of it is ready first', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey', { serviceWorkers: 'block' });
    await openTeo(tamsin);
    // What typesets is fetched when the first formula is there, and comes late.
    const slowly = await holdBack(tamsin, /immutable.*\.(js|css)$/);
    await box(tamsin).fill('$x$');
    await box(tamsin).press('ArrowLeft');
    for (const letter of 'abcdefghijkl') await tamsin.keyboard.type(letter);
    await tamsin.locator('form span').getByText('xabcdefghijkl', { exact: true }).waitFor();
    slowly.letGo();
    const drawn = tamsin.locator('form .katex annotation');
    await drawn.waitFor({ state: 'attached' });
    await expect.poll(() => drawn.textContent()).toBe('xabcdefghijkl');
    // None covers the view.
    await box(tamsin).fill('$\\rule{500em}{500em}$');
    const large = tamsin.locator('form .katex-rule');
    await large.waitFor({ state: 'attached' });
    expect((await large.boundingBox())?.height).toBeLessThan(600);
    await box(tamsin).fill('');
  });

  it('on a criterion says so to its student, with its formulas typeset', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    await tamsin.getByRole('button', { name: 'Comment on Timing' }).click();
    await expect
      .poll(() => box(tamsin).evaluate((one) => one === document.activeElement))
      .toBe(true);
    await tamsin.keyboard.type('The dark, too: T = ');
    await tamsin.getByRole('button', { name: 'Formula' }).click();
    await tamsin.keyboard.type('\\frac{10}{2}');
    // It is shown as it will be.
    await tamsin.locator('form .katex math mfrac').waitFor({ state: 'attached' });
    await add(tamsin);
    await on(tamsin, 'the criterion Timing').waitFor();
    // What is said next is on the whole copy again.
    await tamsin.getByText('On the whole copy; select words').waitFor();
    const { page: teo } = await stage.enter('teo.calloway');
    await teo
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const seen = on(teo, 'the criterion Timing');
    await seen.locator('math mfrac').waitFor({ state: 'attached' });
    expect(await seen.textContent()).toContain('The dark, too: T = ');
    expect(await seen.textContent()).not.toContain('$');
  });

  it('takes a picture and what is spoken along, once it has its line in words', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    const picture = { name: 'harbour.png', mimeType: 'image/png', buffer: readFileSync(HARBOUR) };
    await tamsin.locator('input[type=file]').last().setInputFiles(picture);
    await tamsin.getByText('It goes with a line in words.').waitFor();
    await add(tamsin);
    await tamsin.getByText('Please add a line in words').waitFor();
    // It is still there after the page was opened again.
    await tamsin.reload();
    await tamsin.getByText('It goes with a line in words.').waitFor();
    await box(tamsin).fill('Where would you stand?');
    await add(tamsin);
    const shown = (page: Page) => page.getByRole('img', { name: 'Where would you stand?' });
    await tamsin
      .getByRole('article')
      .filter({ has: shown(tamsin) })
      .waitFor();

    await tamsin.getByRole('button', { name: 'Speak' }).click();
    const timer = tamsin.getByRole('timer');
    await expect.poll(() => timer.textContent()).toMatch(/Recording, 0:0[1-9]/);
    await tamsin.getByRole('button', { name: 'Stop' }).click();
    await tamsin.getByText('It goes with a line in words.').waitFor();
    await box(tamsin).fill('Listen to this.');
    await add(tamsin);
    await tamsin.getByRole('article').getByLabel('Spoken comment: Listen to this.').waitFor();

    const { page: teo } = await stage.enter('teo.calloway');
    await teo
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const seen = shown(teo);
    await expect
      .poll(() => seen.evaluate((one) => (one as HTMLImageElement).naturalWidth))
      .toBeGreaterThan(100);
    const heard = teo.getByLabel('Spoken comment: Listen to this.');
    await expect
      .poll(() => heard.evaluate((one) => (one as HTMLAudioElement).readyState))
      .toBeGreaterThan(0);
    // It plays, and there is something to hear.
    await heard.evaluate((one) => (one as HTMLAudioElement).play());
    await expect
      .poll(() => heard.evaluate((one) => (one as HTMLAudioElement).currentTime))
      .toBeGreaterThan(0.2);
    await saved(teo);
  });

  it('is answered with a picture, too', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    await box(tamsin).fill('Look at it from the quay.');
    await add(tamsin);
    const card = tamsin.getByRole('article').filter({ hasText: 'Look at it from the quay.' });
    await card.getByLabel('Reply').focus();
    const picture = { name: 'harbour.png', mimeType: 'image/png', buffer: readFileSync(HARBOUR) };
    await card.locator('input[type=file]').setInputFiles(picture);
    await card.getByText('It goes with a line in words.').waitFor();
    await card.getByRole('button', { name: 'Send' }).click();
    await card.getByText('Please add a line in words').waitFor();
    await card.getByLabel('Reply').fill('From here.');
    await card.getByRole('button', { name: 'Send' }).click();
    await card.getByRole('img', { name: 'From here.' }).waitFor();
    await card.getByText('It goes with a line in words.').waitFor({ state: 'detached' });
    const { page: teo } = await stage.enter('teo.calloway');
    await teo
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const seen = teo.getByRole('img', { name: 'From here.' });
    await expect
      .poll(() => seen.evaluate((one) => (one as HTMLImageElement).naturalWidth))
      .toBeGreaterThan(100);
    // A student answers in words.
    const theirs = teo.getByRole('article').filter({ has: seen });
    await theirs.getByLabel('Reply').fill('I see.');
    expect(await theirs.getByRole('button', { name: 'Speak' }).count()).toBe(0);
    await theirs.getByRole('button', { name: 'Send' }).click();
    await card.getByText('I see.').waitFor();
  });

  it('is written while the one before is sent: neither its words nor whom it is for are lost', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    let hold = () => {};
    const held = new Promise<void>((resolve) => (hold = resolve));
    let kept = true;
    await tamsin.route(/\/threads$/, async (route) => {
      if (route.request().method() === 'POST') await held;
      return kept ? route.continue() : route.abort();
    });
    await box(tamsin).fill('The first.');
    await add(tamsin);
    await box(tamsin).fill('The second.');
    await tamsin.getByText('For staff only').click();
    hold();
    await tamsin.getByRole('article').getByText('The first.').waitFor();
    expect(await box(tamsin).inputValue()).toBe('The second.');
    const isForStaff = tamsin.getByRole('checkbox', { name: 'For staff only' });
    expect(await isForStaff.isChecked()).toBe(true);
    // What could not be sent is still there, for whom it was meant.
    kept = false;
    await add(tamsin);
    await tamsin.getByText('What you typed is still here.').waitFor();
    expect(await box(tamsin).inputValue()).toBe('The second.');
    expect(await isForStaff.isChecked()).toBe(true);
  });

  it('can be written where no microphone is; what is no picture is said', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    await tamsin.evaluate(() => {
      navigator.mediaDevices.getUserMedia = () => Promise.reject(new Error('denied'));
    });
    await tamsin.getByRole('button', { name: 'Speak' }).click();
    await tamsin.getByText('Uncia does not hear a microphone.').waitFor();
    const words = { name: 'words.txt', mimeType: 'text/plain', buffer: Buffer.from('words') };
    await tamsin.locator('input[type=file]').last().setInputFiles(words);
    await tamsin.getByText('“words.txt” is neither a picture nor sound.').waitFor();
  });

  it('listens to nobody who went on to another copy while they were asked for the microphone', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    await tamsin.evaluate(() => {
      const { mediaDevices } = navigator;
      const ask = mediaDevices.getUserMedia.bind(mediaDevices);
      mediaDevices.getUserMedia = async (what) => {
        const heard = await ask(what);
        await new Promise<void>((allow) => Object.assign(globalThis, { heard, allow }));
        return heard;
      };
    });
    const asked = () => tamsin.evaluate(() => 'allow' in globalThis);
    await tamsin.getByRole('button', { name: 'Speak' }).click();
    await expect.poll(asked).toBe(true);
    const line = tamsin.getByRole('navigation', { name: 'Students' });
    await line.getByRole('link', { name: 'Hesper, June' }).click();
    await tamsin.getByRole('textbox', { name: 'June Hesper’s copy' }).waitFor();
    const stands = () =>
      tamsin.evaluate(() => {
        const { heard, allow } = globalThis as unknown as { heard: MediaStream; allow: () => void };
        allow();
        return heard.getTracks().map(({ readyState }) => readyState);
      });
    await expect.poll(stands).toEqual(['ended']);
    await expect.poll(() => tamsin.getByRole('timer').count()).toBe(0);
  });

  it('is changed, withdrawn and brought back, until its student has it', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openTeo(tamsin);
    await tamsin.getByText('Send when the copy goes back').click();
    await box(tamsin).fill('Count form flash to flash.');
    await add(tamsin);
    const kept = on(tamsin, 'the whole copy').filter({ hasText: 'goes with the copy' });
    await kept.getByRole('button', { name: 'Change' }).click();
    const other = kept.getByRole('textbox', { name: 'The comment in other words' });
    await other.fill('Count from flash to flash.');
    // What is half-changed stays when one looks at another copy, and takes no cursor when one comes back.
    await choose(tamsin, 'Isla', 'Abernathy');
    await choose(tamsin, 'Teo', 'Calloway');
    await expect.poll(() => other.inputValue()).toBe('Count from flash to flash.');
    expect(await other.evaluate((node) => node === document.activeElement)).toBe(false);
    await other.press('Control+Enter');
    await kept.getByText('Count from flash to flash.').waitFor();
    expect(await tamsin.getByText('Count form flash').count()).toBe(0);

    await kept.getByRole('button', { name: 'Withdraw' }).click();
    await tamsin.getByText('Withdrawn: “Count from flash to flash.”').waitFor();
    await expect.poll(() => kept.count()).toBe(0);
    await tamsin.getByRole('button', { name: 'Bring back' }).click();
    await kept.getByText('Count from flash to flash.').waitFor();
    await expect.poll(() => tamsin.getByText('Withdrawn:').count()).toBe(0);

    await box(tamsin).fill('Not this one.');
    await add(tamsin);
    const slip = kept.filter({ hasText: 'Not this one.' });
    await slip.getByRole('button', { name: 'Withdraw' }).click();
    await expect.poll(() => slip.count()).toBe(0);
    await tamsin.getByRole('button', { name: 'Hand back again' }).click();
    // What they have stays said.
    await expect.poll(() => tamsin.getByRole('button', { name: 'Withdraw' }).count()).toBe(0);
    const { page: teo } = await stage.enter('teo.calloway');
    await teo
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    await teo.getByText('Count from flash to flash.').first().waitFor();
    expect(await teo.getByText(/Not this one|Count form/).count()).toBe(0);
  });
});
