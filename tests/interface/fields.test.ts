import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { fillMoment } from '../support/fields';
import { useStage } from '../support/stage';

const stage = useStage();

/** The form for handing out "Beach profile" in 8C. */
async function openForm(): Promise<Page> {
  const { page } = await stage.enter('tamsin.orrey');
  await page.goto('/courses');
  await page.getByRole('link', { name: 'Coast & Chart' }).click();
  await page.getByRole('button', { name: /^Hand out: Beach profile/ }).click();
  await page.getByRole('link', { name: 'In 8C' }).click();
  await page.getByLabel('Due, day').waitFor();
  return page;
}
const isDue = (page: Page, words: string | RegExp) => page.getByText(words).first().waitFor();

describe('a day and its time', () => {
  it('are typed as people write them, and read back in the school’s own way', async () => {
    const page = await openForm();
    await fillMoment(page, 'Due', '4.3.2099', '0850');
    expect(await page.getByLabel('Due, day').inputValue()).toBe('Wed 4 Mar 2099');
    expect(await page.getByLabel('Due, time').inputValue()).toBe('08:50');
    await isDue(page, 'It is due Wednesday 4 March, 08:50.');
    // A time that was emptied is proposed anew, and is seen.
    await fillMoment(page, 'Due', '5/3/2099', '16:00');
    await page.getByLabel('Due, time').fill('');
    await page.keyboard.press('Tab');
    await expect.poll(() => page.getByLabel('Due, time').inputValue()).toBe('16:00');
    await isDue(page, 'It is due Thursday 5 March, 16:00.');
    await page.getByLabel('Due, day').fill('');
    await page.keyboard.press('Tab');
    await page.getByRole('button', { name: 'no due time', pressed: true }).waitFor();
  });

  it('are chosen in a calendar whose week begins on Monday, by keyboard too', async () => {
    const page = await openForm();
    await fillMoment(page, 'Due', '4/3/2099', '14:50');
    const due = page.getByRole('group', { name: 'Due', exact: true });
    await due.getByRole('button').click();
    const calendar = page.getByRole('application', { name: 'calendar' });
    await calendar.getByText('March 2099').waitFor();
    expect(await calendar.locator('th').first().innerText()).toBe('Mon');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await calendar.waitFor({ state: 'detached' });
    expect(await page.getByLabel('Due, day').inputValue()).toBe('Thu 12 Mar 2099');
    await isDue(page, 'It is due Thursday 12 March, 14:50.');
    await due.getByRole('button').click();
    await page.getByRole('button', { name: /previous month/i }).click();
    await calendar.getByText('February 2099').waitFor();
    await calendar.getByRole('button', { name: /27 February 2099/ }).click();
    expect(await page.getByLabel('Due, day').inputValue()).toBe('Fri 27 Feb 2099');
  });

  it('that are none stay as they were typed, say so, and nothing goes out', async () => {
    const page = await openForm();
    await fillMoment(page, 'Due', '31/2/2099', '25:00');
    await page.getByText('A day like 23/10/2026 or 23 Oct, please.').waitFor();
    await page.getByText('A time like 14:50, please.').waitFor();
    for (const name of ['Hand out now', 'Save as draft'])
      await page.getByRole('button', { name, exact: true }).click();
    expect(await page.getByLabel('Due, day').inputValue()).toBe('31/2/2099');
    expect(await page.getByLabel('Due, day').evaluate((field) => field.matches(':invalid'))).toBe(
      true,
    );
    expect(page.url()).toContain('/hand-out');
    expect(await page.getByText('Saved as a draft').count()).toBe(0);
  });
});

describe('one of many', () => {
  it('is found by some letters; what is none of them changes nothing', async () => {
    const { page } = await stage.enter('sol.petrakis');
    await page.goto('/school/calendar');
    const field = page.getByRole('combobox', { name: 'The school’s clock' });
    await field.fill('st johns');
    expect(await page.getByRole('option').allInnerTexts()).toEqual(['America/St_Johns']);
    await field.press('Enter');
    await page.getByText('The school’s clock is changed.').waitFor();
    await field.fill('nowhere at all');
    await page.getByText('None of that name.').waitFor();
    await field.press('Tab');
    await expect.poll(() => field.inputValue()).toBe('America/St_Johns');
    await page.reload();
    expect(await field.inputValue()).toBe('America/St_Johns');
  });
});

describe('a switch', () => {
  it('is turned by a press and by the space bar, and the plan follows', async () => {
    const page = await openForm();
    const guard = page.getByLabel(/^Guard my text/);
    const turned = async (on: boolean, says: RegExp) => {
      await page.getByText(says).first().waitFor();
      expect(await guard.isChecked()).toBe(on);
    };
    await turned(true, /Your text on the page is guarded/);
    await guard.focus();
    await page.keyboard.press('Space');
    await turned(false, /Your text is not guarded/);
    await page.getByText(/^Guard my text/).click();
    await turned(true, /Your text on the page is guarded/);
  });
});

describe('a file', () => {
  it('is dropped where it can be chosen, and another kind is refused by its name', async () => {
    const { page, context } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('link', { name: 'Roster' }).click();
    const zone = page.getByRole('button', { name: 'Roster file: choose or drop' });
    const folder = mkdtempSync(join(tmpdir(), 'uncia-'));
    const devtools = await context.newCDPSession(page);
    const drop = async (name: string, text: string) => {
      writeFileSync(join(folder, name), text);
      const at = await zone.boundingBox();
      for (const type of ['dragEnter', 'dragOver', 'drop'] as const)
        await devtools.send('Input.dispatchDragEvent', {
          type,
          x: (at?.x ?? 0) + 20,
          y: (at?.y ?? 0) + 20,
          data: { items: [], files: [join(folder, name)], dragOperationsMask: 1 },
        });
    };
    await drop('class.pdf', 'no');
    await page
      .getByText('“class.pdf” is not read here. What is: .csv, .txt, .tsv and .zip.')
      .waitFor();
    await drop('new.csv', 'Name\n"Sandoval, Mira"\n');
    await page.getByText(/lines? would change/).waitFor();
    await page.getByText(/class\.pdf/).waitFor({ state: 'detached' });
  });
});

describe('the list of what Skeleton has', () => {
  it('is not written by hand: no view has a native field for days, times or files, nor a dialog', () => {
    // The toolbar's picture button opens a hidden native one.
    const views = import.meta.glob<string>('/src/**/*.svelte', {
      query: '?raw',
      import: 'default',
      eager: true,
    });
    const native = Object.entries(views)
      .filter(([, text]) => /type="(date|time|datetime-local|range)"|<progress|<dialog/.test(text))
      .map(([path]) => path);
    expect(native).toEqual([]);
    const files = Object.entries(views).filter(([, text]) => text.includes('type="file"'));
    expect(files.map(([path]) => path)).toEqual(['/src/lib/ui/page/PageToolbar.svelte']);
    expect(Object.keys(views).length).toBeGreaterThan(50);
  });
});
