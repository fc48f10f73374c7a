import type { Locator, Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { beginOriginal } from '../support/begin-original';
import { saved, useStage } from '../support/stage';

const stage = useStage();

const open = async (who: string, title: string) => {
  const { page, context } = await stage.enter(who);
  await page.getByRole('link', { name: title }).first().click();
  await tools(page).waitFor();
  return { page, context };
};
const tools = (page: Page) => page.getByRole('toolbar', { name: 'Drawing' });
const tool = (page: Page, name: string) => tools(page).getByRole('button', { name, exact: true });
const paper = (page: Page): Locator => page.locator('.answer-drawing svg[viewBox^="0 0 1000"]');

/** Where a point of the drawing is on the screen. */
async function onScreen(page: Page) {
  await paper(page).scrollIntoViewIfNeeded();
  const box = await paper(page).boundingBox();
  if (!box) throw new Error('no drawing to be seen');
  return ([x, y]: [number, number]): [number, number] => [
    box.x + (x * box.width) / 1000,
    box.y + (y * box.width) / 1000,
  ];
}
async function drag(page: Page, ...points: [number, number][]) {
  const at = await onScreen(page);
  const [first, ...others] = points;
  if (!first) return;
  await page.mouse.move(...at(first));
  await page.mouse.down();
  for (const point of others) await page.mouse.move(...at(point), { steps: 8 });
  await page.mouse.up();
}

describe('a drawing', () => {
  it('is drawn, labelled, erased and undone; another browser sees each stroke', async () => {
    const { page } = await open('viggo.ekholm', 'Harbour sketch');
    const { page: teacher } = await stage.enter('tamsin.orrey');
    await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await teacher.getByRole('button', { name: /^Ekholm, Viggo, Harbour sketch/ }).click();
    await teacher.getByRole('link', { name: 'Open copy' }).click();
    await paper(teacher).waitFor();
    expect(await tools(teacher).count()).toBe(0);

    await drag(page, [640, 80], [500, 250], [470, 330]);
    await tools(page).getByText('1 stroke').waitFor();
    await tool(page, 'red ink').click();
    await tool(page, 'Thick line').click();
    await drag(page, [200, 200], [360, 280]);
    await tools(page).getByText('2 strokes').waitFor();
    await tool(page, 'Label').click();
    await page.mouse.click(...(await onScreen(page))([700, 320]));
    const text = page.getByRole('textbox', { name: 'Text of the label' });
    await text.fill('deep <water> & “wide”');
    await text.press('Enter');
    await tools(page).getByText('2 strokes, 1 label').waitFor();
    await saved(page);
    await paper(teacher).getByText('deep <water> & “wide”').waitFor();
    await expect.poll(() => paper(teacher).locator('path').count()).toBe(2);

    await tool(page, 'Eraser').click();
    await drag(page, [250, 180], [250, 260]);
    await tools(page).getByText('1 stroke, 1 label').waitFor();
    await expect.poll(() => paper(teacher).locator('path').count()).toBe(1);
    // Undo belongs to the page: by keys on the drawing, and by its button.
    await paper(page)
      .getByRole('button', { name: /^Label:/ })
      .focus();
    await page.keyboard.press('ControlOrMeta+z');
    await tools(page).getByText('2 strokes, 1 label').waitFor();
    await saved(page);
    await page.reload();
    await tools(page).getByText('2 strokes, 1 label').waitFor();
    // What its teacher says of a drawing is tied to it, and framed where its student looks.
    await paper(teacher).click();
    await teacher.getByText(/^On “drawing: /).waitFor();
    await teacher.getByLabel(/^On “drawing: /).fill('Where is north?');
    await teacher.getByRole('button', { name: 'Add comment' }).click();
    const framed = (page: Page) => page.locator('.answer-drawing.thread-frame');
    await framed(teacher).waitFor();
    // What is said next is on the whole copy again.
    await teacher.getByLabel(/^On the whole copy/).waitFor();
    await page
      .getByRole('article', { name: /^Comment on “drawing: / })
      .getByText('Where is north?')
      .waitFor();
    await framed(page).waitFor();
    // It stays on the drawing while that is drawn on.
    await tool(page, 'Pen').click();
    await drag(page, [600, 400], [700, 420]);
    await tools(page).getByText('3 strokes, 1 label').waitFor();
    await saved(page);
    await framed(page).waitFor();
    await page.keyboard.press('ControlOrMeta+z');
    await tools(page).getByText('2 strokes, 1 label').waitFor();
    await saved(page);
    // Who drew what, and when, is known.
    await page.getByRole('button', { name: 'How it was written' }).click();
    await page.getByText('Who wrote what', { exact: true }).click();
    const shown = page.getByRole('document', { name: 'The page, with who wrote it' });
    await expect.poll(() => shown.locator('.thing.written').count()).toBe(3);
    await page.getByText('What changed', { exact: true }).click();
    const compared = page.getByRole('document', { name: 'The page, with what changed' });
    await expect.poll(() => compared.locator('.thing.came').count()).toBe(3);
  });

  it('has pieces that are moved by mouse and by keys alone, and said to who cannot see them', async () => {
    const { page } = await open('malik.garrow', 'Chart symbols');
    const piece = (name: RegExp) => paper(page).getByRole('button', { name });
    const takeOff = async (name: string) => {
      await piece(new RegExp(`^${name}`)).focus();
      await page.keyboard.press('Delete');
      await piece(new RegExp(`^${name}, not placed`)).waitFor();
    };
    await takeOff('slip');
    await takeOff('end light');
    // By keys: from place to place, straight to one, and freely.
    await piece(/^slip/).focus();
    await page.keyboard.press('Enter');
    await piece(/^slip, on place 1/).waitFor();
    await page.keyboard.press('3');
    await piece(/^slip, on place 3/).waitFor();
    await page.keyboard.press('ArrowRight');
    await piece(/^slip, on the drawing/).waitFor();
    await page.keyboard.press('3');
    // By mouse, near enough to its place: from beside the drawing.
    const light = await piece(/^end light/).boundingBox();
    if (!light) throw new Error('no piece');
    const at = await onScreen(page);
    await page.mouse.move(light.x + light.width / 2, light.y + light.height / 2);
    await page.mouse.down();
    await page.mouse.move(...at([530, 280]), { steps: 8 });
    await page.mouse.up();
    await piece(/^end light, on place 1/).waitFor();
    await tools(page).getByText('4 of 4 places filled').waitFor();
    await saved(page);
    await page.reload();
    await piece(/^end light, on place 1/).waitFor();
    // Zoomed in, the drawing is pushed to and fro by itself.
    const width = async () => (await paper(page).boundingBox())?.width ?? 0;
    const before = await width();
    await tool(page, 'Larger').click();
    await expect.poll(width).toBeCloseTo(before * 1.5, 0);
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(
      true,
    );
  });

  it('is not drawn on by a finger that scrolls past, and is once it was touched', async () => {
    const tablet = { hasTouch: true, viewport: { width: 820, height: 1180 } };
    const { page, context } = await stage.enter('dayo.lomax', tablet);
    await page.getByRole('link', { name: 'Harbour sketch' }).first().click();
    await tools(page).waitFor();
    const at = await onScreen(page);
    const cdp = await context.newCDPSession(page);
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
      cdp.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: points.map((point) => ({ x: at(point)[0], y: at(point)[1] })),
      });
    const swipe = async () => {
      await touch('touchStart', [500, 400]);
      for (let i = 1; i <= 10; i++) await touch('touchMove', [500 + i, 400 - i * 20]);
      await touch('touchEnd');
    };
    const strokes = () => paper(page).locator('path').count();
    const had = await strokes();
    await swipe();
    expect(await strokes()).toBe(had);
    await paper(page).scrollIntoViewIfNeeded();
    await paper(page).tap();
    await page.getByRole('button', { name: 'Stop drawing' }).waitFor();
    const box = await paper(page).boundingBox();
    if (!box) throw new Error('no drawing');
    const on = (x: number, y: number) => [{ x: box.x + x, y: box.y + y }];
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: on(100, 100) });
    for (let i = 1; i <= 8; i++)
      await cdp.send('Input.dispatchTouchEvent', {
        type: 'touchMove',
        touchPoints: on(100 + i * 10, 100 + i * 5),
      });
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    await expect.poll(strokes).toBe(had + 1);
  });

  it('is made by a teacher: on a picture, with places, pieces and their key, which no student gets', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await beginOriginal(page, 'Parts of a boat');
    await page.locator('.ProseMirror').click();
    await page.keyboard.type('Name the parts.');
    await page.getByRole('button', { name: 'A place for an answer' }).click();
    await page.getByRole('button', { name: 'Drawing', exact: true }).click();
    const panel = page.getByRole('region', { name: /Drawing$/ });
    await panel.getByLabel('New piece').fill('bow');
    await panel.getByRole('button', { name: 'Add piece' }).click();
    await panel.getByLabel('New piece').fill('stern “aft”');
    await panel.getByLabel('New piece').press('Enter');
    await tool(page, 'Place for a piece').click();
    await page.mouse.click(...(await onScreen(page))([200, 300]));
    await page.mouse.click(...(await onScreen(page))([800, 300]));
    await panel.getByLabel('Where bow belongs').selectOption('place 1');
    await panel.getByLabel('Where stern “aft” belongs').selectOption('place 2');
    await panel.getByLabel('What it shows, for whoever cannot see it').fill('A boat');
    await panel.getByLabel('What it shows, for whoever cannot see it').press('Tab');
    await panel.locator('input[type=file]').setInputFiles({
      name: 'boat.png',
      mimeType: 'image/png',
      buffer: Buffer.from(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
        'base64',
      ),
    });
    await paper(page).locator('image').waitFor({ state: 'attached' });
    // A picture as high as it is wide.
    await expect.poll(() => paper(page).getAttribute('viewBox')).toMatch(/^0 0 1000 10\d\d$/);
    await saved(page);
    await page.reload();
    await paper(page).getByRole('button', { name: 'Place 2' }).waitFor();
    await page.getByText('key set').waitFor();
    await panel.waitFor({ state: 'detached' });
    // What is no picture is said to be none.
    await paper(page).getByRole('button', { name: 'Place 1' }).focus();
    await panel.locator('input[type=file]').setInputFiles({
      name: 'boat.png',
      mimeType: 'image/png',
      buffer: Buffer.from('no picture at all'),
    });
    await page.getByText('This file is no picture that can be shown.').waitFor();
    expect(await panel.getByLabel('Where bow belongs').inputValue()).not.toBe('');
  });
});
