import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();
const pile = (page: Page, answer: RegExp | string) => page.getByRole('region', { name: answer });
const given = (page: Page, answer: RegExp | string) =>
  pile(page, answer).locator('[aria-pressed="true"]').allInnerTexts();

async function openPiles(name: string) {
  const { page } = await stage.enter(name);
  await page.getByRole('link', { name: '8A Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8A' });
  await board.getByRole('link', { name: 'Lights at night' }).click();
  await page.getByRole('link', { name: 'Mark', exact: true }).click();
  await page.getByRole('link', { name: 'Part by part' }).click();
  await page.getByRole('heading', { level: 1, name: /^1 · Write/ }).waitFor();
  return page;
}

describe('marking part by part', () => {
  it('goes by keys: a pile is scored, half a point more, undone, and commented', async () => {
    const page = await openPiles('tamsin.orrey');
    const left = async () =>
      (
        await page
          .getByRole('navigation', { name: 'Parts' })
          .getByRole('listitem')
          .first()
          .innerText()
      ).match(/(\d+) to mark/)?.[1];
    const before = Number(await left());
    await pile(page, /Flashes 3 times, ten seconds$/).focus();
    const size = Number.parseInt(
      (await pile(page, /Flashes 3 times, ten seconds$/).getAttribute('aria-label')) ?? '',
      10,
    );
    await page.keyboard.press('1');
    await expect.poll(() => given(page, /Flashes 3 times, ten seconds$/)).toEqual(['1']);
    await expect.poll(async () => Number(await left())).toBe(before - size);
    await page.keyboard.press('Shift+Digit1');
    await expect.poll(() => given(page, /Flashes 3 times, ten seconds$/)).toEqual(['1½']);
    await page.keyboard.press('u');
    await expect.poll(() => given(page, /Flashes 3 times, ten seconds$/)).toEqual(['1']);
    await page.keyboard.press('u');
    await expect.poll(() => given(page, /Flashes 3 times, ten seconds$/)).toEqual([]);
    expect(Number(await left())).toBe(before);
    await page.keyboard.press('c');
    await page.keyboard.type('The wrong pile.');
    await page.keyboard.press('Control+Enter');
    await page.getByText(`Commented in ${size} copies`).waitFor();
    const flashes = pile(page, /Flashes 3 times, ten seconds$/);
    await flashes.getByText(`“The wrong pile.” · to all ${size}`).waitFor();
    await flashes.focus();
    await page.keyboard.press('u');
    await page.getByText(`Undone: Commented in ${size} copies`).waitFor();
    await page.getByText('Their students have the words already').waitFor();
    await expect.poll(() => flashes.getByText('The wrong pile.').count()).toBe(0);
    // By the pointer; what is half-typed stays with its pile, however slow the browser is to keep it.
    const keeping = await page.evaluateHandle(() => {
      const encrypt = crypto.subtle.encrypt.bind(crypto.subtle);
      let goOn = () => {};
      const held = new Promise<void>((resolve) => (goOn = resolve));
      crypto.subtle.encrypt = (...asked) => held.then(() => encrypt(...asked));
      return { goOn };
    });
    await flashes.getByRole('button', { name: 'comment', exact: true }).click();
    await flashes.getByRole('textbox').fill('“Ten seconds” from where to where?');
    await flashes.focus();
    await page.keyboard.press(']');
    await page.getByRole('heading', { level: 1, name: /^2 ·/ }).waitFor();
    expect(await page.getByRole('textbox').count()).toBe(0);
    await page.keyboard.press('[');
    await flashes.waitFor();
    await keeping.evaluate(({ goOn }) => goOn());
    await expect.poll(() => flashes.getByRole('textbox').inputValue()).toContain('from where');
    const elsewhere = pile(await openPiles('tamsin.orrey'), /Flashes 3 times, ten seconds$/);
    await elsewhere.waitFor();
    await flashes.getByRole('textbox').press('Control+Enter');
    await page.getByText(`Commented in ${size} copies`).waitFor();
    // It comes to all who look at the piles.
    for (const one of [flashes, elsewhere])
      await one.getByText(`from where to where?” · to all ${size}`).waitFor();
    // One of them, in its margin.
    await pile(page, /Flashes 3 times, ten seconds$/)
      .getByRole('button', { name: /take one out/ })
      .click();
    await pile(page, /Flashes 3 times, ten seconds$/)
      .getByRole('link', { name: 'open' })
      .first()
      .click();
    await page.getByText('“Ten seconds” from where to where?').waitFor();
    await page.getByText('on “Flashes 3 times, ten seconds”').first().waitFor();
  });

  it('takes each key, however fast they come', async () => {
    const page = await openPiles('tamsin.orrey');
    await pile(page, /Flashes 3 times, ten seconds$/).focus();
    const points = () => given(page, /Flashes 3 times, ten seconds$/);
    for (const key of ['1', '2', 'Shift+Digit1']) await page.keyboard.press(key);
    await expect.poll(points).toEqual(['1½']);
    for (const key of ['u', 'u', 'u']) await page.keyboard.press(key);
    await expect.poll(points).toEqual([]);
    expect(await page.getByRole('alert').count()).toBe(0);
  });

  it('takes an answer for right after saying who gains, and hides names until they are wanted', async () => {
    const page = await openPiles('tamsin.orrey');
    const wanted = /three flashes, every 10 seconds/i;
    await pile(page, wanted)
      .getByRole('button', { name: /take one out/ })
      .click();
    const names = pile(page, wanted).getByText(/, 8A$/);
    expect(await names.count()).toBe(0);
    await page.getByText('Show names').click();
    await expect.poll(() => names.count()).toBeGreaterThan(0);
    await pile(page, wanted).getByRole('button', { name: 'accept as right' }).click();
    const who = page.getByRole('region', { name: 'Who gains or loses' });
    await who.getByText(/gives points to \d+ in 8A/).waitFor();
    expect(await given(page, wanted)).toEqual([]);
    // Of another part it says nothing.
    await page.keyboard.press(']');
    await page.getByRole('heading', { level: 1, name: /^2 ·/ }).waitFor();
    expect(await who.count()).toBe(0);
    await page.keyboard.press('[');
    await who.waitFor();
    await who.getByRole('button', { name: 'Accept it' }).click();
    await expect.poll(() => given(page, wanted)).toEqual(['2']);
    await page.getByText(/counts as right now/).waitFor();
    // Against the key there must be a reason.
    await pile(page, wanted).getByRole('button', { name: '1', exact: true }).click();
    await page.getByLabel(/^Why 1, where the key/).fill('Where do they begin?');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect.poll(() => given(page, wanted)).toEqual(['1']);
    await pile(page, wanted).getByText('Where do they begin?').waitFor();
    await pile(page, wanted).getByRole('button', { name: 'as the key says' }).click();
    await expect.poll(() => given(page, wanted)).toEqual(['2']);
  });

  it('leaves alone an answer that was taken out, and puts it back', async () => {
    const page = await openPiles('tamsin.orrey');
    const of = /Fast light 3 to 10 seconds$/;
    const sizes = async () =>
      (
        await pile(page, of).evaluateAll((all) =>
          all.map((one) => one.getAttribute('aria-label') ?? ''),
        )
      ).map((says) => Number.parseInt(says, 10));
    const [size = 0] = await sizes();
    expect(size).toBeGreaterThan(1);
    await pile(page, of)
      .getByRole('button', { name: /take one out/ })
      .click();
    await pile(page, of).getByRole('button', { name: 'take out', exact: true }).first().click();
    await expect.poll(sizes).toEqual(size === 2 ? [1, 1] : [size - 1, 1]);
    await page.reload();
    await page.getByRole('button', { name: 'put back into its pile' }).click();
    await expect.poll(sizes).toEqual([size]);
  });
});

describe('handing back several copies', () => {
  it('shows first what each student will see, hands back those that are marked, and prints with numbers', async () => {
    const page = await openPiles('tamsin.orrey');
    await page.getByRole('link', { name: 'Copy by copy' }).click();
    await page.getByRole('textbox', { name: 'Points', exact: true }).waitFor();
    const name = await page.getByRole('heading', { level: 1 }).innerText();
    await page.getByRole('textbox', { name: 'Points', exact: true }).fill('6');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText('Send when the copy goes back').click();
    await page.getByPlaceholder(/^Comment, or a few letters/).fill('Count from flash to flash.');
    await page.getByRole('button', { name: 'Add comment' }).click();
    await page.getByText('Count from flash to flash.').first().waitFor();
    await page.getByRole('link', { name: 'Hand back …' }).click();
    await page.getByRole('heading', { level: 1, name: `What ${name} will see` }).waitFor();
    const sheet = page.getByRole('article');
    await sheet.getByText('Count from flash to flash.').waitFor();
    await sheet.getByText('6 of 10 points').waitFor();
    const side = page.getByRole('complementary', { name: 'Copies to hand back' });
    await expect.poll(() => side.getByRole('checkbox', { checked: true }).count()).toBe(1);
    await page.evaluate(() => {
      window.print = () =>
        document.documentElement.setAttribute(
          'data-printed',
          document.querySelectorAll('article').length.toString(),
        );
    });
    await page.getByRole('button', { name: 'Print 1' }).click();
    await expect.poll(() => page.locator('html').getAttribute('data-printed')).toBe('2');
    await page.getByRole('button', { name: 'Hand back 1' }).click();
    await page.getByText('1 copy is handed back.').waitFor();
    await side.getByText('back', { exact: true }).waitFor();
    const [given = '', family = ''] = name.toLowerCase().split(' ');
    const { page: student } = await stage.enter(`${given}.${family}`);
    await student.getByRole('link', { name: 'Lights at night' }).first().click();
    await student.getByText('6 of 10 points').first().waitFor();
    await student.getByText('Count from flash to flash.').first().waitFor();
  });
});
