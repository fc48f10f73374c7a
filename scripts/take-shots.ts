import type { Page } from 'playwright-core';
import { PASSWORD } from '../demo/people';
import { connect } from '../src/lib/server/db/connect';
import { migrate } from '../src/lib/server/db/migrate';
import { launch, openBrowser, signIn } from '../tests/support/browser';
import { administer } from '../tests/support/database';
import { fillDemo } from './lib/project.mjs';
import { Server } from '../tests/support/server';

const onBoard = (name: string) => (page: Page) =>
  page
    .getByRole('region', { name: /^Board of/ })
    .getByRole('link', { name })
    .click();
const link = (name: string | RegExp) => (page: Page) =>
  page.getByRole('link', { name }).first().click();
const board = link('8C Coast & Chart');
const course = [
  (page: Page) => page.goto('/courses'),
  (page: Page) => page.getByRole('link', { name: 'Coast & Chart', exact: true }).click(),
];
const toHistory = (page: Page) =>
  page
    .getByRole('heading', { name: 'How it was written' })
    .evaluate((heading) => heading.scrollIntoView({ block: 'start' }));
const lookBack = async (page: Page) => {
  await page.getByRole('button', { name: 'How it was written' }).click();
  await page.getByText('As it stands now').waitFor();
};
const collecting = [
  board,
  (page: Page) =>
    page.locator('a[href*="/assignments/"]', { hasText: 'Harbour sketch' }).first().click(),
  link('Collect files …'),
];
const SHOTS: {
  name: string;
  who?: string;
  steps: ((page: Page) => Promise<unknown>)[];
  seen: string | RegExp;
}[] = [
  { name: 'desk', who: 'tamsin.orrey', steps: [], seen: 'What needs your hand' },
  {
    name: 'board',
    who: 'tamsin.orrey',
    steps: [
      board,
      (page) => page.getByRole('button', { name: /^Marchetti, Luca, A light/ }).click(),
    ],
    seen: 'Open copy',
  },
  {
    name: 'board-points',
    who: 'tamsin.orrey',
    steps: [
      board,
      (page) => page.getByText('Points', { exact: true }).first().click(),
      // The choice slides there.
      (page) => page.waitForTimeout(500),
    ],
    seen: 'Total',
  },
  {
    name: 'copy-come-back',
    who: 'sunniva.strand',
    steps: [link(/A light’s character/)],
    seen: 'Next:',
  },
  {
    name: 'part-by-part',
    who: 'tamsin.orrey',
    steps: [
      link(/^Mark: Lights at night/),
      link('Part by part'),
      async (page) => {
        const pile = page.getByRole('region', { name: /Flashes 3 times, ten seconds$/ });
        await pile.focus();
        await page.keyboard.press('1');
        await pile.getByRole('button', { name: '1', pressed: true }).waitFor();
        await page.keyboard.press('c');
        await pile.getByRole('textbox').fill('Ten seconds from where to where, {name}?');
        await pile.getByRole('textbox').press('Control+Enter');
        await pile.getByText('· to all 5').waitFor();
        const other = page.getByRole('region', { name: /three flashes, every 10 seconds/i });
        await other.getByRole('button', { name: 'accept as right' }).click();
      },
    ],
    seen: 'gives points to',
  },
  {
    name: 'agreement',
    who: 'tamsin.orrey',
    steps: [
      link('8B Coast & Chart'),
      onBoard('A light’s character'),
      link('Markers'),
      (page) =>
        page
          .getByRole('heading', { name: 'Agreement' })
          .evaluate((heading) => heading.scrollIntoView({ block: 'center' })),
    ],
    seen: 'Weighted kappa',
  },
  {
    name: 'workbook',
    who: 'tamsin.orrey',
    steps: [
      board,
      onBoard('Fennick, Ada'),
      (page) =>
        page
          .getByText('The story of the weeks')
          .evaluate((heading) => heading.scrollIntoView({ block: 'center' })),
      (page) => page.waitForTimeout(400),
    ],
    seen: 'The story of the weeks',
  },
  { name: 'course', who: 'tamsin.orrey', steps: course, seen: 'Make the second table shorter' },
  {
    name: 'page-editor',
    who: 'tamsin.orrey',
    steps: [
      ...course,
      link('Rule of twelfths'),
      (page) => page.locator('.answer-number').nth(2).click(),
    ],
    seen: 'Tolerance',
  },
  { name: 'plan', who: 'tamsin.orrey', steps: [board, link('Plan')], seen: 'How to reach us' },
  {
    name: 'gaps',
    who: 'tamsin.orrey',
    steps: [
      link(/^See gaps: Zina/),
      (page) => page.getByRole('button', { name: 'Harbour sketch', exact: true }).click(),
      (page) => page.getByRole('button', { name: 'Dayo Lomax', exact: true }).click(),
      (page) => page.getByRole('document', { name: 'The page before' }).waitFor(),
    ],
    seen: 'As it stood before',
  },
  { name: 'collecting', who: 'tamsin.orrey', steps: collecting, seen: 'only a part of the name' },
  {
    name: 'gradebook',
    who: 'tamsin.orrey',
    steps: [
      board,
      link('Gradebook'),
      (page) => page.getByRole('button', { name: 'Calloway, Teo', exact: true }).click(),
    ],
    seen: 'sees this sum, too',
  },
  {
    name: 'looking-back',
    who: 'isla.abernathy',
    steps: [
      link('Rule of twelfths'),
      lookBack,
      (page) => page.getByRole('slider').focus(),
      (page) => page.keyboard.press('PageDown'),
      toHistory,
      (page) => page.waitForTimeout(400),
    ],
    seen: 'Put this back',
  },
  {
    name: 'hand-out',
    who: 'tamsin.orrey',
    steps: [
      ...course,
      (page) => page.getByRole('button', { name: /^Hand out: Beach/ }).click(),
      link('In all 3'),
    ],
    seen: 'As a student sees it',
  },
  {
    name: 'marking',
    who: 'tamsin.orrey',
    steps: [
      link(/^Mark: A light’s character/),
      (page) => page.getByText(/left$/).first().waitFor(),
      (page) => page.keyboard.press('s'),
      (page) => page.keyboard.press('3'),
      (page) => page.keyboard.press('.'),
    ],
    seen: '3½ of 20 so far',
  },
  { name: 'student-work', who: 'ada.fennick', steps: [], seen: 'Back from your teacher' },
  {
    name: 'headcount',
    who: 'tamsin.orrey',
    steps: [link('Headcount of the term')],
    seen: 'should be there',
  },
  {
    name: 'student-copy',
    who: 'ben.jarrold',
    steps: [
      link('Harbour sketch'),
      (page) => page.locator('.answer-drawing svg').first().waitFor(),
      (page) =>
        page
          .getByText('Draw the way in')
          .evaluate((line) => line.scrollIntoView({ block: 'start' })),
    ],
    seen: 'parts done',
  },
];

const base = process.env.TEST_SERVER_URL ?? '';
const name = 'shots';
await administer(base, `drop database if exists ${name} with (force)`, `create database ${name}`);
const url = base.replace(/[^/]+$/, name);
const db = connect(url);
await migrate(db);
await db.destroy();
fillDemo(url);
const server = await Server.start(url);
const browser = await launch();
for (const { name, who, steps, seen } of SHOTS) {
  const { context, page } = await openBrowser(browser, server.origin);
  if (who) await signIn(page, who, PASSWORD);
  else await page.goto('/sign-in');
  for (const step of steps) await step(page);
  await page.getByText(seen).first().waitFor();
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await context.close();
}
await browser.close();
await server.stop();
