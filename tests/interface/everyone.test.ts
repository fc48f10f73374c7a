import axe, { type AxeResults } from 'axe-core';
import { gzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

/** WCAG 2.2 A and AA, as axe-core checks them. */
async function faults(page: Page): Promise<string[]> {
  await page.evaluate(axe.source);
  const rules = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'];
  const { violations } = await page.evaluate<AxeResults>(
    `axe.run({ runOnly: ${JSON.stringify(rules)} })`,
  );
  return violations.flatMap(({ id, nodes }) =>
    nodes.map((node) => `${id}: ${node.html.slice(0, 160)} ${node.failureSummary ?? ''}`),
  );
}

const byLink = (name: string | RegExp) => (page: Page) =>
  page.getByRole('link', { name }).first().click();
const byButton = (name: RegExp) => (page: Page) => page.getByRole('button', { name }).click();
const onBoard = (name: string) => (page: Page) =>
  page.getByRole('region', { name: 'Board of 8C' }).getByRole('link', { name }).click();
// The desk has links to classes with that name, too.
const course = [
  byLink('Courses'),
  (page: Page) => page.getByRole('link', { name: 'Coast & Chart', exact: true }).click(),
];
const VIEWS: [string, string | undefined, ((page: Page) => Promise<void>)[], string][] = [
  ['sign-in', undefined, [], 'Skerry Point School, a demo'],
  ['desk', 'tamsin.orrey', [], 'What needs your hand'],
  ['board', 'tamsin.orrey', [byLink('8C Coast & Chart')], 'Abernathy, Isla'],
  [
    'board with a peek',
    'tamsin.orrey',
    [
      byLink('8C Coast & Chart'),
      (page) => page.getByRole('button', { name: /^Marchetti, Luca, Rule/ }).click(),
    ],
    'Open copy',
  ],
  ['courses', 'tamsin.orrey', [byLink('Courses')], 'Create a course'],
  ['course', 'tamsin.orrey', course, 'Make the second table shorter'],
  ['page editor', 'tamsin.orrey', [...course, byLink('Rule of twelfths')], '8 parts'],
  ['rubric', 'tamsin.orrey', [...course, byLink('Harbour sketch, scored')], 'Add criterion'],
  ['codes', 'tamsin.orrey', [...course, byLink('Codes')], 'The coast'],
  [
    'hand-out',
    'tamsin.orrey',
    [...course, byButton(/^Hand out: Beach/), byLink('In 8C')],
    'As a student sees it',
  ],
  ['plan', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Plan')], 'How to reach us'],
  [
    'building a class',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Plan'), byLink('Bring in units')],
    'Nothing else.',
  ],
  ['roster', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Roster')], 'In the class · 23'],
  ['groups', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Groups')], 'In no group'],
  ['set-up', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Set-up')], 'Lessons, each week'],
  ['new class', 'tamsin.orrey', [byLink('New class')], 'What is taught'],
  [
    'workbook',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), onBoard('Fennick, Ada')],
    'Ada Fennick’s workbook',
  ],
  [
    'student’s workbook',
    'luca.marchetti',
    [byLink('8C Coast & Chart'), byLink('My workbook')],
    'Add page',
  ],
  ['mailbox', 'tamsin.orrey', [byLink('Mailbox')], 'Nothing has come yet'],
  ['student’s plan', 'luca.marchetti', [byLink('8C Coast & Chart')], 'Words we found'],
  [
    'reading',
    'luca.marchetti',
    [byLink('8C Coast & Chart'), byLink('What the tide does in a day')],
    'Springs and neaps',
  ],
  ['what is due', 'tamsin.orrey', [byLink('What is due')], 'In your own calendar'],
  ['student’s due times', 'ada.fennick', [byLink('What is due')], 'In your own calendar'],
  [
    'assignment',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), onBoard('Harbour sketch')],
    'Where, and when it is due',
  ],
  [
    'change after handing out',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), onBoard('Harbour sketch'), byLink('Change …')],
    'Nothing changes.',
  ],
  ['calendar', 'sol.petrakis', [byLink('Calendar')], 'Another holiday'],
  ['marking', 'tamsin.orrey', [byLink('Mark: Rule of twelfths')], 'In the margin'],
  ['student’s work', 'luca.marchetti', [], 'Back from your teacher'],
  ['copy', 'luca.marchetti', [byLink('Rule of twelfths')], 'parts done'],
  ['school', 'sol.petrakis', [], 'Office'],
];

describe('every view', () => {
  for (const light of ['light', 'dark'] as const)
    it.each(VIEWS)(
      `has no fault that axe-core finds: %s, ${light}`,
      async (_, who, steps, seen) => {
        const { page } = await stage.enter(who);
        await page.emulateMedia({ colorScheme: light });
        if (!who) await page.goto('/sign-in');
        for (const step of steps) await step(page);
        await page.getByText(seen).first().waitFor();
        expect(await faults(page)).toEqual([]);
      },
    );

  it.each([
    [820, 1180],
    [390, 844],
  ])('of a student fits %i × %i', async (width, height) => {
    const { page } = await stage.enter('luca.marchetti');
    await page.setViewportSize({ width, height });
    const fits = async () => {
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(wide).toBeLessThanOrEqual(width);
    };
    await page.goto('/work');
    const copy = page.getByRole('link', { name: 'Harbour sketch' });
    await copy.waitFor();
    await fits();
    await copy.click();
    await page.getByRole('button', { name: 'Hand in', exact: true }).waitFor();
    await fits();
  });
});

describe('a click', () => {
  it('is not lost when the answer to a form comes while the next view is on its way', async () => {
    const { page } = await stage.enter('luca.marchetti');
    await page.goto('/mailbox');
    const held = async (address: string) => {
      let letGo = () => {};
      const released = new Promise<void>((resolve) => (letGo = resolve));
      let met = () => {};
      const asked = new Promise<void>((resolve) => (met = resolve));
      await page.route(address, async (route) => {
        met();
        await released;
        await route.continue();
      });
      return { asked, letGo };
    };
    const form = await held('**/mailbox?/mails');
    const view = await held('**/calendar/__data.json*');
    await page.getByLabel('By e-mail').selectOption('never');
    await form.asked;
    await page.getByRole('link', { name: 'What is due' }).click();
    await view.asked;
    const answered = page.waitForResponse('**/mailbox?/mails');
    form.letGo();
    await (await answered).finished();
    // What the form's answer sets off would have been asked for by now.
    await page.evaluate(() => new Promise((resolve) => setTimeout(resolve)));
    view.letGo();
    await page.waitForURL('**/calendar');
    await page.getByRole('heading', { level: 1, name: /due/i }).waitFor();
  });
});

describe('a student’s copy', () => {
  it('sends at most 230 kB of gzipped script', async () => {
    const { page, context } = await stage.enter('luca.marchetti');
    const link = page.getByRole('link', { name: 'Harbour sketch' });
    const address = await link.getAttribute('href');
    const copy = await context.newPage();
    const asked = new Set<string>();
    copy.on(
      'request',
      (request) => void (request.url().endsWith('.js') && asked.add(request.url())),
    );
    await copy.goto(address ?? '');
    await copy.getByRole('button', { name: 'Bold' }).waitFor();
    await copy.waitForLoadState('load');
    const scripts = await Promise.all(
      [...asked].map(async (url) => Buffer.from(await (await fetch(url)).arrayBuffer())),
    );
    const sent = scripts.reduce((sum, script) => sum + gzipSync(script).length, 0);
    process.stdout.write(
      `a student's copy sends ${Math.round(sent / 1000)} kB of gzipped script in ${scripts.length} files\n`,
    );
    expect(scripts.length).toBeGreaterThan(3);
    expect(sent).toBeLessThanOrEqual(230_000);
  });
});
