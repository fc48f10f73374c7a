import axe, { type Result } from 'axe-core';
import { posix } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { fillMoment } from '../support/fields';
import { tooLong, tooWide } from '../support/too-large';
import { holdBack, useStage } from '../support/stage';

const stage = useStage();

/** WCAG 2.2 A and AA, as axe-core names what it checks. */
const RULES = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'];
/** What of it goes by colours, and may be otherwise in the dark. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

async function faults(page: Page, rules: readonly string[]): Promise<string[]> {
  if (!(await page.evaluate('"axe" in window'))) await page.evaluate(axe.source);
  const how = JSON.stringify({ runOnly: rules, resultTypes: ['violations'] });
  const violations = await page.evaluate<Result[]>(
    `axe.run(${how}).then(({ violations }) => violations)`,
  );
  // A tooltip belongs to its button, wherever it lies in the page.
  const isTooltip = (html: string) => html.includes('data-scope="tooltip"');
  return violations.flatMap(({ id, nodes }) =>
    nodes
      .filter(({ html }) => id !== 'region' || !isTooltip(html))
      .map((node) => `${id}: ${node.html.slice(0, 160)} ${node.failureSummary ?? ''}`),
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
const original = [...course, byLink('Rule of twelfths')];
const handOut = [...course, byButton(/^Hand out: Beach/), byLink('In 8C')];
const opens = (field: string) => (page: Page) =>
  page.getByRole('group', { name: field, exact: true }).getByRole('button').click();
const find = (words: string) => async (page: Page) => {
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find anything' }).fill(words);
};
const STUDENTS = ['luca.marchetti', 'ada.fennick'];
const collecting: ((page: Page) => Promise<void>)[] = [
  byLink('8C Coast & Chart'),
  (page) => page.locator('a[href*="/assignments/"]', { hasText: 'Harbour sketch' }).first().click(),
  byLink('Collect files …'),
];
const VIEWS: [string, string | undefined, ((page: Page) => Promise<void>)[], string][] = [
  ['sign-in', undefined, [], 'Skerry Point School, a demo'],
  ['desk', 'tamsin.orrey', [], 'What needs your hand'],
  ['board', 'tamsin.orrey', [byLink('8C Coast & Chart')], 'Abernathy, Isla'],
  [
    'gaps',
    'tamsin.orrey',
    [
      byLink('8C Coast & Chart'),
      (page) => page.getByText(/^Gaps \d/).click(),
      (page) =>
        page
          .getByRole('button', { name: /^Restore …/ })
          .first()
          .click(),
      (page) => page.getByRole('document', { name: 'The page before' }).waitFor(),
    ],
    'What was written since stays below it',
  ],
  ['headcount', 'tamsin.orrey', [byLink('Headcount of the term')], 'should be there'],
  [
    'something attached',
    'luca.marchetti',
    [
      byLink('Harbour sketch'),
      byButton(/^Attach a file/),
      (page) => page.getByLabel('Attach a link to work made elsewhere').scrollIntoViewIfNeeded(),
    ],
    'not handed in yet',
  ],
  ['collecting', 'tamsin.orrey', collecting, 'only a part of the name'],
  [
    'cover sheets',
    'tamsin.orrey',
    [...collecting, byLink('Cover sheets …')],
    'Lay each student’s cover sheet',
  ],
  [
    'cutting a stack of sheets',
    'tamsin.orrey',
    [
      ...collecting,
      byLink(/^Cut to students/),
      (page) => page.getByRole('button', { name: /^By cover sheets/ }).waitFor(),
    ],
    'Sheets for each',
  ],
  [
    'board as it stood',
    'tamsin.orrey',
    [
      byLink('8C Coast & Chart'),
      async (page) => {
        await page.getByRole('slider', { name: 'The board as it stood' }).focus();
        await page.keyboard.press('PageDown');
      },
    ],
    'As it stood',
  ],
  [
    'parts of an assignment',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), onBoard('Rule of twelfths'), byLink('Parts')],
    'Rule of twelfths: its parts',
  ],
  [
    'shared passages',
    'tamsin.orrey',
    [
      byLink('8C Coast & Chart'),
      onBoard('A light’s character'),
      byLink('Shared passages'),
      (page) =>
        page.getByRole('list', { name: 'Shared passages' }).getByRole('link').first().click(),
      (page) => page.locator('.shared-words').first().waitFor(),
    ],
    'How it was written',
  ],
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
  ['page editor', 'tamsin.orrey', original, '8 parts'],
  ['rubric', 'tamsin.orrey', [...course, byLink('Harbour sketch, scored')], 'Add criterion'],
  ['codes', 'tamsin.orrey', [...course, byLink('Codes')], 'The coast'],
  ['hand-out', 'tamsin.orrey', handOut, 'As a student sees it'],
  ['plan', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Plan')], 'How to reach us'],
  [
    'building a class',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Plan'), byLink('Bring in units')],
    'Nothing else.',
  ],
  [
    'building a class from another',
    'tamsin.orrey',
    [
      byLink('8C Coast & Chart'),
      byLink('Plan'),
      byLink('Bring in units'),
      async (page) =>
        void (await page.getByLabel('From').selectOption({ label: '8A Coast & Chart' })),
    ],
    'Assignments, as drafts',
  ],
  ['roster', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Roster')], 'In the class · 23'],
  ['groups', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Groups')], 'In no group'],
  [
    'gradebook',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Gradebook'), byButton(/^Rule of twelfths/)],
    'Half have',
  ],
  [
    'a student in the gradebook',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Gradebook'), byButton(/^Fennick, Ada$/)],
    'Ada sees this sum, too.',
  ],
  [
    'student’s points',
    'luca.marchetti',
    [byLink('8C Coast & Chart'), byLink('My points')],
    'What your teacher has handed back',
  ],
  ['set-up', 'tamsin.orrey', [byLink('8C Coast & Chart'), byLink('Set-up')], 'Lessons, each week'],
  [
    'closing the term',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Set-up'), byLink('Close the term …')],
    'Points that are kept back',
  ],
  ['opening an archive', 'tamsin.orrey', [byLink('Open an archive')], 'a .zip file'],
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
    'will be made',
  ],
  ['calendar', 'sol.petrakis', [byLink('Calendar')], 'Another holiday'],
  ['marking', 'tamsin.orrey', [byLink('Mark: Rule of twelfths')], 'In the margin'],
  ['marking by a rubric', 'tamsin.orrey', [byLink('Mark: A light’s character')], 'so far'],
  ['student’s work', 'luca.marchetti', [], 'Back from your teacher'],
  ['copy', 'luca.marchetti', [byLink('Rule of twelfths')], 'parts done'],
  ['feedback sheet', 'luca.marchetti', [byLink('A light’s character')], 'Feedback sheet'],
  ['school', 'sol.petrakis', [], 'Office'],
];

/** What lies open over a view. */
const OPEN: typeof VIEWS = [
  ['finding', 'tamsin.orrey', [find('chart')], 'found'],
  ['keyboard shortcuts', 'tamsin.orrey', [(page) => page.keyboard.press('?')], 'this sheet'],
  ['menu of oneself', 'tamsin.orrey', [byButton(/^Tamsin Orrey/)], 'Sign out'],
  [
    'how a class counts',
    'tamsin.orrey',
    [byLink('8C Coast & Chart'), byLink('Gradebook'), byButton(/^Change …/)],
    'Weighted categories',
  ],
  ['menu of a page', 'tamsin.orrey', [...course, byButton(/^More about Beach/)], 'Adapt'],
  [
    'bringing in pages',
    'tamsin.orrey',
    [...course, byButton(/^Bring in pages/)],
    'several at once',
  ],
  ['a link in a page', 'tamsin.orrey', [...original, byButton(/^Link$/)], 'Where it leads'],
  [
    'tooltip',
    'tamsin.orrey',
    [...original, (page) => page.getByRole('button', { name: 'Bold' }).hover()],
    'Bold',
  ],
  ['calendar of a due time', 'tamsin.orrey', [...handOut, opens('Due')], 'Mon'],
  [
    'one of many',
    'tamsin.orrey',
    [...handOut, (page) => page.getByRole('combobox', { name: 'Which student' }).click()],
    'Lomax',
  ],
  [
    'a day that is none',
    'tamsin.orrey',
    [...handOut, (page) => fillMoment(page, 'Due', 'soon', 'later')],
    'A time like',
  ],
  ['handing in', 'luca.marchetti', [byLink('Harbour sketch'), byButton(/^Hand in$/)], 'Hand in H'],
];
/** As wide as a school's tablets and phones are for students, as tablets and a window at 200 % for their teachers. */
const WIDTHS = { student: [820, 640, 390], staff: [820, 640] };

/** Shows the page in the dark, once what fades has faded. */
async function darken(page: Page) {
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.evaluate(async () => {
    await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
    const fades = document.getAnimations().filter((one) => one instanceof CSSTransition);
    await Promise.allSettled(fades.map(({ finished }) => finished));
  });
}

describe('every view', () => {
  it.each([...VIEWS, ...OPEN])(
    'has no fault that axe-core finds, light and dark: %s',
    async (name, who, steps, seen) => {
      const page = who ? await stage.stay(who) : (await stage.enter()).page;
      if (!who) await page.goto('/sign-in');
      await page.emulateMedia({ colorScheme: 'light' });
      await page.setViewportSize({ width: 1280, height: 800 });
      for (const step of steps) await step(page);
      await page.getByText(seen).first().waitFor();
      expect(await tooLong(page)).toBe(0);
      expect(await faults(page, RULES)).toEqual([]);
      await darken(page);
      expect(await faults(page, COLOURS)).toEqual([]);
      if (!VIEWS.some(([one]) => one === name)) return;
      const widths = STUDENTS.includes(who ?? '') ? WIDTHS.student : WIDTHS.staff;
      for (const width of widths) {
        await page.setViewportSize({ width, height: 844 });
        expect([width, await tooWide(page), await tooLong(page)]).toEqual([width, 0, 0]);
      }
    },
  );
});

describe('a click', () => {
  it('is not lost when the answer to a form comes while the next view is on its way', async () => {
    const { page } = await stage.enter('luca.marchetti');
    await page.goto('/mailbox');
    const form = await holdBack(page, '**/mailbox?/mails');
    const view = await holdBack(page, '**/calendar/__data.json*');
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
  it('can be written in after at most 230 kB of gzipped script', async () => {
    const { page, context } = await stage.enter('luca.marchetti');
    const address = await page.getByRole('link', { name: 'Harbour sketch' }).getAttribute('href');
    // The route's own scripts and all that they need; what shows or does more comes after it.
    const copy = await context.newPage();
    const asked: string[] = [];
    copy.on('request', (request) => void asked.push(new URL(request.url()).pathname));
    await copy.goto(address ?? '');
    await copy.getByRole('button', { name: 'Bold' }).waitFor();
    const waiting = asked.filter((path) => /\/(entry|nodes)\/[^/]+\.js$/.test(path));
    const scripts = new Map<string, Buffer>();
    for (let path = waiting.pop(); path; path = waiting.pop()) {
      if (scripts.has(path)) continue;
      const script = await (await context.request.get(path)).body();
      scripts.set(path, script);
      for (const [, needed] of script.toString().matchAll(/(?:from|import)\s*["']([^"']+)["']/g))
        waiting.push(posix.join(posix.dirname(path), needed ?? ''));
    }
    const sent = [...scripts.values()].reduce((sum, script) => sum + gzipSync(script).length, 0);
    process.stdout.write(
      `a student's copy sends ${(sent / 1000).toFixed(1)} kB of gzipped script in ${scripts.size} files\n`,
    );
    expect(scripts.size).toBeGreaterThan(20);
    expect(sent).toBeLessThanOrEqual(230_000);
  });
});
