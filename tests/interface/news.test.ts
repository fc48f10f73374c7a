import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { beginOriginal } from '../support/begin-original';
import { holdBack, saved, useStage } from '../support/stage';

const stage = useStage();
const button = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** How often a view is read again before it rests. */
async function readings(page: Page): Promise<number> {
  const again = () =>
    page.waitForRequest(/__data\.json/, { timeout: 1500 }).then(
      () => true,
      () => false,
    );
  let times = 0;
  while (times < 10 && (await again())) times++;
  return times;
}

/** Comes true with the next news that a page hears. */
const hears = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<void>((heard) => {
        new BroadcastChannel('uncia news').onmessage = () => heard();
      }),
  );

/** A teacher who only has to press the button to hand out a page to 8C. */
async function readyToHandOut(title: string): Promise<Page> {
  const { page } = await stage.enter('tamsin.orrey');
  await beginOriginal(page, title);
  await page.keyboard.type('How high is the spring tide?');
  await saved(page);
  await button(page, `Hand out: ${title}`).click();
  await page.getByRole('link', { name: 'In 8C' }).click();
  await page.getByText('23 copies').first().waitFor();
  return page;
}

describe('a view that hears the news', () => {
  it('rests where nothing happens', async () => {
    const { page: teacher } = await stage.enter('tamsin.orrey');
    expect(await readings(teacher)).toBeLessThan(3);
    await teacher.getByRole('link', { name: '8C Coast & Chart', exact: true }).first().click();
    await teacher.getByText('Work', { exact: true }).waitFor();
    expect(await readings(teacher)).toBeLessThan(3);
    const board = teacher.url();
    for (const view of ['plan', 'gradebook']) {
      await teacher.goto(`${board}/${view}`);
      expect(await readings(teacher), view).toBeLessThan(3);
    }
    const { page: student } = await stage.enter('ada.fennick');
    expect(await readings(student)).toBeLessThan(3);
  });

  it('shows what it was told of while it was being read', async () => {
    const first = await readyToHandOut('Spring tide');
    const second = await readyToHandOut('Neap tide');
    const { page: student } = await stage.enter('ada.fennick');
    await readings(student);
    const slowly = await holdBack(student, /work\/__data\.json/, { read: true });
    await button(first, 'Hand out now').click();
    await slowly.asked;
    const told = hears(student);
    await button(second, 'Hand out now').click();
    await told;
    slowly.letGo();
    await student.getByRole('link', { name: 'Spring tide' }).waitFor();
    await student.getByRole('link', { name: 'Neap tide' }).waitFor();
  });

  it('shows what happened between the coming of the pointer to its link and its opening', async () => {
    const teacher = await readyToHandOut('High water');
    const { page } = await stage.enter('bea.lindqvist');
    const link = page.getByRole('link', { name: '8C Coast & Chart', exact: true }).first();
    // What the view reads again by itself would make the link be read anew.
    await readings(page);
    const read = page.waitForResponse(/classes\/[^/]+\/__data\.json/);
    await link.hover();
    await read;
    const told = hears(page);
    await button(teacher, 'Hand out now').click();
    await told;
    await link.click();
    await button(page, 'Fennick, Ada, High water: unopened').waitFor();
  });
});
