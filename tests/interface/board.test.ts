import type { BrowserContextOptions, Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { holdBack, useStage } from '../support/stage';

const stage = useStage();

const board = (page: Page) => page.getByRole('region', { name: 'Board of 8C' });
const names = (page: Page) => board(page).locator('tbody th').allInnerTexts();
const lens = (page: Page, name: string) => page.getByText(name, { exact: true }).first().click();
const filter = (page: Page) => page.getByRole('button', { name: /^Filter the board/ });

/** A unit's id, as the filter has it. */
async function unitOf(page: Page, title: string): Promise<string> {
  await filter(page).click();
  const id = await page
    .getByLabel('Unit')
    .locator('option', { hasText: title })
    .getAttribute('value');
  await page.keyboard.press('Escape');
  return id ?? '';
}

async function openBoard(device: BrowserContextOptions = {}): Promise<Page> {
  const { page } = await stage.enter('tamsin.orrey', device);
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await board(page).waitFor();
  return page;
}

describe('the board', () => {
  it('is seen by points: each student’s, and the totals of the gradebook', async () => {
    const page = await openBoard();
    await lens(page, 'Points');
    await expect.poll(() => new URL(page.url()).search).toBe('?lens=points');
    const totals = () => board(page).locator('tbody td:last-child strong').allInnerTexts();
    await expect
      .poll(async () => (await totals()).filter((one) => one.includes('%')).length)
      .toBeGreaterThan(10);
    const shown = await totals();
    // As it was kept in the address.
    await page.reload();
    await expect.poll(totals).toEqual(shown);
    await page.getByRole('link', { name: 'Gradebook' }).click();
    await page.waitForURL('**/gradebook');
    const inGradebook = async () =>
      (await page.getByRole('table').locator('tbody td:last-child').allInnerTexts()).map(
        (text) => /^[^\s·]+( %)?/.exec(text.trim())?.[0],
      );
    await expect.poll(inGradebook).toEqual(shown);
    await page.goBack();
    await expect.poll(() => new URL(page.url()).search).toBe('?lens=points');
    await expect.poll(totals).toEqual(shown);
  });

  it('is seen by hours: in lessons, in the evening, and how that stands to the due time', async () => {
    const page = await openBoard();
    await lens(page, 'Hours');
    await board(page)
      .getByRole('button', {
        name: /Chart symbols: .*(in lessons|in the evening).*(before|after) the due time/,
      })
      .first()
      .waitFor();
  });

  it('shows what is asked for alone, in the order that is asked for, and says of how many', async () => {
    const page = await openBoard();
    const all = await names(page);
    expect(all).toEqual([...all].sort((a, b) => a.localeCompare(b)));
    await filter(page).click();
    await page.getByRole('checkbox', { name: 'handed in' }).check();
    await page.keyboard.press('Escape');
    await expect.poll(() => new URL(page.url()).search).toBe('?only=handed+in');
    const cells = board(page).getByRole('button', { name: /: / });
    await expect.poll(async () => (await cells.count()) > 0).toBe(true);
    const labels = await cells.evaluateAll((all) =>
      all.map((one) => one.getAttribute('aria-label')),
    );
    expect(labels.every((label) => label?.includes('handed in'))).toBe(true);
    await page
      .getByText(new RegExp(`^${(await names(page)).length} of ${all.length} students`))
      .waitFor();
    // As somebody sent it.
    await page.reload();
    await expect
      .poll(() => cells.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label'))))
      .toEqual(labels);
    await page.getByRole('button', { name: 'Show everything' }).click();
    await expect.poll(() => names(page)).toEqual(all);
    await filter(page).click();
    await page.getByLabel('Sort students').selectOption('longest without a change');
    await expect.poll(() => names(page)).not.toEqual(all);
    expect((await names(page)).sort((a, b) => a.localeCompare(b))).toEqual(all);
    await expect.poll(() => new URL(page.url()).search).toBe('?order=still');
  });

  it('has a peek that goes along with the arrow keys, in which something is said at once', async () => {
    // What goes through a service worker cannot be held back.
    const page = await openBoard({ serviceWorkers: 'block' });
    const { page: student } = await stage.enter('june.hesper');
    await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await student.locator('.ProseMirror').waitFor();
    const slowly = await holdBack(page, /\.js$/);
    const read = page.waitForResponse(/\/peek$/);
    await board(page)
      .getByRole('button', { name: /^Garrow, Malik, Harbour sketch/ })
      .click();
    const peek = (name: string) => page.getByRole('complementary', { name: `Peek: ${name}` });
    await peek('Malik Garrow, Harbour sketch').waitFor();
    await slowly.asked;
    await read;
    // What is to be clicked comes with the page above it: it does not move away from a hand.
    expect(await page.getByRole('button', { name: 'Say something' }).count()).toBe(0);
    slowly.letGo();
    await page.getByRole('button', { name: 'Say something' }).waitFor();
    const inside = page.getByRole('document', { name: 'Malik Garrow’s copy' });
    expect(await inside.isVisible()).toBe(true);
    await page.keyboard.press('ArrowDown');
    await peek('June Hesper, Harbour sketch').waitFor();
    await page.getByRole('button', { name: 'Say something' }).click();
    await page.getByLabel('Comment on the whole copy').fill('Begin with “the quay”.');
    await page.getByRole('button', { name: 'Add comment' }).click();
    await page.getByText('Your comment is on the copy.').waitFor();
    await student.getByText('Begin with “the quay”.').waitFor();
    await page.getByRole('link', { name: 'Versions' }).click();
    await page.getByRole('document', { name: 'The page at this moment' }).waitFor();
  });

  it('shows in the peek what somebody writes while they do, and later first what is new', async () => {
    const page = await openBoard();
    const { page: priya } = await stage.enter('priya.dunmore');
    await priya.getByRole('link', { name: 'Harbour sketch' }).first().click();
    const answer = priya.locator('.ProseMirror .answer-writing').first();
    await answer.click();
    await priya.keyboard.press('ControlOrMeta+End');
    const cell = board(page).getByRole('button', { name: /^Dunmore, Priya, Harbour sketch/ });
    await cell.click();
    const copy = page.getByRole('document', { name: 'Priya Dunmore’s copy' });
    await copy.waitFor();
    await priya.keyboard.type('The breakwater hides the berths');
    await copy.getByText('The breakwater hides the berths').waitFor();
    const caret = copy.locator('.writing-here');
    await caret.waitFor();
    expect(await caret.evaluate((sign) => sign.previousSibling?.textContent)).toContain('berths');
    await page.getByRole('button', { name: 'Close the peek' }).click();
    await priya.keyboard.type(' from the north');
    await priya.getByText(/everything is saved/).waitFor();
    await cell.click();
    await page.getByText('in 1 place since you looked').waitFor();
    await expect
      .poll(() => copy.locator('.new-words').allInnerTexts())
      .toEqual([' from the north']);
    // The whole copy shows it, too; who opens it again has seen it.
    await priya.keyboard.type(', all of them');
    await priya.getByText(/everything is saved/).waitFor();
    await page.getByRole('button', { name: 'Close the peek' }).click();
    await priya.keyboard.type(' lie there');
    await priya.getByText(/everything is saved/).waitFor();
    const address = await priya.evaluate(() => location.pathname.split('/').at(-1) ?? '');
    const klass = /classes\/[^/?]+/.exec(page.url())?.[0] ?? '';
    const told = page.waitForResponse(
      (response) => response.url().endsWith('/marking') && response.ok(),
    );
    await page.goto(`/${klass}/marking/${address}`);
    const fresh = async () => (await page.locator('.new-words').allInnerTexts()).join('');
    await expect.poll(fresh).toMatch(/ lie there$/);
    await told;
    await page.reload();
    await page.locator('.ProseMirror').waitFor();
    await expect.poll(() => page.locator('.new-words').count()).toBe(0);
  });

  it('reminds those in sight, after showing whom; nobody twice in a day; one alone from the peek', async () => {
    const page = await openBoard();
    const { page: student } = await stage.enter('noor.bastrop');
    await page.goto(
      `${new URL(page.url()).pathname}?only=unopened&unit=${await unitOf(page, 'Shore')}`,
    );
    await page.getByRole('button', { name: /^Remind \d+ students$/ }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByText(/^Pilot book page: Noor Bastrop, June Hesper/).waitFor();
    await sheet.getByLabel('A word with it').fill('One line of it by “Monday”.');
    await sheet.getByRole('button', { name: 'Remind', exact: true }).click();
    await page.getByText(/^\d+ reminders are sent\.$/).waitFor();
    await student.goto(new URL('/mailbox', student.url()).href);
    await student.getByText('A reminder: Pilot book page').waitFor();
    await student
      .getByText(/^Ms Orrey asks for it, in 8C\. It is due .* “One line of it by “Monday”\.”$/)
      .first()
      .waitFor();
    // From the peek, the same one again, and another.
    await page.getByRole('button', { name: 'Show everything' }).click();
    await board(page)
      .getByRole('button', { name: /^Bastrop, Noor, Pilot book page/ })
      .click();
    await page.getByRole('button', { name: 'Remind …' }).click();
    await sheet.getByText('Everybody you chose was reminded today.').waitFor();
    await sheet.getByRole('button', { name: 'Close' }).click();
    await board(page)
      .getByRole('button', { name: /^Garrow, Malik, Harbour sketch/ })
      .click();
    await page.getByRole('button', { name: 'Remind …' }).click();
    await sheet.getByText('Harbour sketch: Malik Garrow.').waitFor();
    await sheet.getByRole('button', { name: 'Remind', exact: true }).click();
    await page.getByText('1 reminder is sent.').waitFor();
    // Nothing is asked for of what is handed in.
    await board(page)
      .getByRole('button', { name: /^Fennick, Ada, Harbour sketch/ })
      .click();
    await page.getByRole('link', { name: 'Versions' }).waitFor();
    expect(await page.getByRole('button', { name: 'Remind …' }).count()).toBe(0);
  });

  it('is looked back to along the term line, through all lenses, and comes back to now', async () => {
    const page = await openBoard();
    const now = await names(page);
    const lamp = page.getByRole('slider', { name: 'The board as it stood' });
    const mark = await page
      .getByRole('region', { name: 'Term line' })
      .getByText('Rule of twelfths')
      .boundingBox();
    if (!mark) throw new Error('no due time on the line');
    const moment = () => Date.parse(new URL(page.url()).searchParams.get('at') ?? '');
    const drag = async (to: number) => {
      const box = await lamp.boundingBox();
      if (!box) throw new Error('no lamp');
      await page.mouse.move(box.x + 8, box.y + 8);
      await page.mouse.down();
      await page.mouse.move(to, box.y + 8, { steps: 8 });
      await page.mouse.up();
    };
    // Some hours before the task was due, and before anything of it came back.
    await drag(mark.x - 8);
    await page.getByText(/^As it stood /).waitFor();
    const cell = board(page).getByRole('button', { name: /^Garrow, Malik, Rule of twelfths/ });
    await expect.poll(() => cell.getAttribute('aria-label')).toMatch(/: handed in/);
    expect(await board(page).getByText('Harbour sketch').count()).toBe(0);
    expect(await page.getByRole('link', { name: 'Hand out something' }).count()).toBe(0);
    await lens(page, 'Hours');
    await board(page)
      .getByRole('button', { name: /^Garrow, Malik, Rule of twelfths: .*before the due time/ })
      .waitFor();
    await lens(page, 'Work');
    // By keys: an hour on, and what is looked at is read for that.
    const before = moment();
    await lamp.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(moment).toBe(before + 3_600_000);
    await cell.click();
    await page.getByText(/^This is how it stood /).waitFor();
    expect(await page.getByRole('button', { name: 'Say something' }).count()).toBe(0);
    await page.getByRole('button', { name: 'Back to now' }).click();
    await board(page).getByText('Harbour sketch').waitFor();
    expect(await names(page)).toEqual(now);
    // To the first days, when nothing of it was there.
    await drag(180);
    await expect.poll(() => board(page).getByText('Rule of twelfths').count()).toBe(0);
    expect(moment()).toBeLessThan(before);
  });

  it('leads from a column to its parts across the class, as they stand and as somebody writes', async () => {
    const page = await openBoard();
    await board(page).getByRole('link', { name: 'Harbour sketch' }).click();
    await page.getByRole('link', { name: 'Parts', exact: true }).click();
    await page.getByRole('heading', { name: 'Harbour sketch: its parts' }).waitFor();
    const row = page.getByRole('row').filter({ hasText: 'Hesper, June' });
    const stands = () => row.locator('td').allInnerTexts();
    const before = await stands();
    expect(before.length).toBeGreaterThan(3);
    expect(before.every((one) => one.trim() === 'blank')).toBe(true);
    const { page: student } = await stage.enter('june.hesper');
    await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
    const answer = student.locator('.answer-writing').first();
    await answer.click();
    await student.keyboard.type('The quay');
    await expect.poll(async () => (await stands()).join(' ')).toMatch(/begun|done/);
  });

  it('says of a test that marks itself how each part did, against the rest of the page', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8A Coast & Chart' }).first().click();
    const other = page.getByRole('region', { name: 'Board of 8A' });
    await other.getByRole('link', { name: 'Tides test' }).click();
    await page.getByRole('link', { name: 'Parts', exact: true }).click();
    const did = page.getByRole('region', { name: 'How the parts did' });
    const rows = did.getByRole('row').filter({ hasText: /% of \d+/ });
    await rows.first().waitFor();
    expect(await rows.count()).toBeGreaterThan(3);
    expect(await rows.first().innerText()).toMatch(
      /\d+ % of \d\d.*(did well|doing well|did alike)/s,
    );
  });

  it('folds what is finished to its rosettes, and unfolds it', async () => {
    const page = await openBoard();
    const folded = board(page).getByRole('button', { name: /, finished: unfold$/ });
    const title =
      (await folded.first().getAttribute('aria-label'))?.replace(', finished: unfold', '') ?? '';
    const cell = board(page)
      .getByRole('button', { name: new RegExp(`, ${title}: `) })
      .first();
    const width = async () => (await cell.boundingBox())?.width ?? 0;
    expect(await width()).toBeLessThan(70);
    await folded.first().click();
    await expect.poll(width).toBeGreaterThan(120);
    await page.reload();
    await expect.poll(width).toBeGreaterThan(120);
    await board(page)
      .getByRole('button', { name: `Fold ${title}` })
      .click();
    await expect.poll(width).toBeLessThan(70);
  });
});
