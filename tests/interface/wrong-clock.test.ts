import { describe, expect, it } from 'vitest';
import { enterAnswer, useStage } from '../support/stage';

const stage = useStage();

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** A laptop whose clock is wrong by so many milliseconds. */
async function enterWith(who: string, wrong: number) {
  const { page, context } = await stage.enter();
  await context.addInitScript((wrong) => {
    const Real = Date;
    class Wrong extends Real {
      constructor(...given: [] | [number]) {
        super(...((given.length > 0 ? given : [Real.now() + wrong]) as [number]));
      }
      static override now() {
        return Real.now() + wrong;
      }
    }
    globalThis.Date = Wrong as DateConstructor;
  }, wrong);
  await page.goto('/sign-in');
  await page.getByRole('textbox', { name: 'Name' }).fill(who);
  await page.getByLabel('Password').fill('skerry-point');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
  await page.locator('.answer-writing').first().waitFor();
  return page;
}

describe('a laptop whose clock is wrong', () => {
  it.each([
    ['an hour ahead', HOUR, 'oona.kestrel'],
    ['an hour behind', -HOUR, 'kaisa.ilves'],
    ['ahead by longer than the work is due', 40 * DAY, 'emil.rask'],
  ])('%s shows and saves by the clock of the school', async (_, wrong, who) => {
    const page = await enterWith(who, wrong);
    const due = page.getByText(/^Due .*, in \d+ days$/);
    await due.waitFor();
    await enterAnswer(page, page.locator('.answer-writing').first());
    await page.keyboard.type('Typed by a wrong clock. ');
    const status = page.getByText(/everything is saved · \d\d:\d\d/);
    await status.waitFor();
    const said = /(\d\d):(\d\d)/.exec((await status.textContent()) ?? '');
    const zone = 'Europe/Dublin';
    const right = [-1, 0, 1].map((minutes) =>
      new Date(Date.now() + minutes * MINUTE).toLocaleTimeString('en-GB', {
        timeZone: zone,
        hour: '2-digit',
        minute: '2-digit',
      }),
    );
    expect(right).toContain(said?.[0]);
    // The log has the server's time, and the work can be handed in.
    await page.getByRole('button', { name: 'How it was written' }).click();
    await page.getByText('As it stands now').waitFor();
    expect(await page.getByText('is not taken any more').count()).toBe(0);
    await page.getByRole('button', { name: /^Hand in/ }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await page
      .getByText(/^handed in \d\d:\d\d$|^handed in/)
      .first()
      .waitFor();
    expect(await page.getByText(/, late$/).count()).toBe(0);
  });
});
