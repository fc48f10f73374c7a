import type { Page } from 'playwright-core';
import { sql } from 'kysely';
import { describe, expect, it } from 'vitest';
import { connect } from '../../src/lib/server/db/connect';
import { enterAnswer, useStage } from '../support/stage';

const stage = useStage();

const line = (page: Page, text: string | RegExp) =>
  page.getByRole('main').getByRole('listitem').filter({ hasText: text });

describe('the desk', () => {
  it('lets a line be put off, and brought back', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await line(page, 'Dayo Lomax was emptied')
      .getByRole('button', { name: /^Put off/ })
      .click();
    await page.getByRole('button', { name: /^Until tomorrow/ }).click();
    const off = page.getByText('Put off · 1');
    await off.waitFor();
    expect(
      await page.getByRole('link', { name: /^Look and mend: Harbour sketch of Dayo/ }).count(),
    ).toBe(0);
    await page.reload();
    await off.click();
    await page.getByRole('button', { name: /^Bring back: Harbour sketch of Dayo/ }).click();
    await page.getByRole('link', { name: /^Look and mend: Harbour sketch of Dayo/ }).waitFor();
    await expect.poll(() => off.count()).toBe(0);
    // A time that has passed is said to be one, and nothing is put off.
    await line(page, 'Dayo Lomax was emptied')
      .getByRole('button', { name: /^Put off/ })
      .click();
    await page.getByRole('button', { name: /^Until a date/ }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Put off' }).click();
    await page.getByText('Please choose a day.').waitFor();
  });

  it('settles a gap, and undoes that', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const lacks = line(page, 'Zina Okpara lacks copies');
    await lacks.getByRole('button', { name: /^Give all/ }).click();
    await page.getByText('What was missing is there now.').waitFor();
    await lacks.waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await lacks.waitFor();
  });

  it('reminds who has not begun, in all of its classes, after showing whom', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    const idle = line(page, 'not begun A light’s character');
    await idle.getByRole('button', { name: /^Remind/ }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByText('Viggo Ekholm').waitFor();
    await sheet.getByRole('button', { name: 'Remind', exact: true }).click();
    await page.getByText(/reminders? (is|are) sent\./).waitFor();
    const { page: viggo } = await stage.enter('viggo.ekholm');
    await viggo.goto('/mailbox');
    await viggo
      .getByText(/A light’s character/)
      .first()
      .waitFor();
    await idle.getByRole('button', { name: /^Remind/ }).click();
    await sheet.getByText('Everybody you chose was reminded today.').waitFor();
  });

  it('shows the running lesson with its rosettes, live', async () => {
    const db = connect(stage.server.database);
    await sql`insert into lesson_slot (school_id, class_id, weekday, starts, ends)
      select class.school_id, class.id, extract(isodow from local.at), '00:00', '23:59' from class
      join school on school.id = class.school_id
      cross join lateral (select now() at time zone school.time_zone as at) local
      where class.name = '8C' and class.archived_at is null`.execute(db);
    // Nor is today in a holiday of the demo.
    await sql`delete from holiday`.execute(db);
    await db.destroy();
    const { page } = await stage.enter('tamsin.orrey');
    const today = page.getByRole('complementary', { name: /\d/ });
    const running = today.getByRole('listitem').filter({ hasText: 'min left' }).first();
    await running.getByText('0 writing now').waitFor();
    const copy = await running.getByRole('link', { name: /^June Hesper/ }).getAttribute('href');
    const { page: june } = await stage.enter('june.hesper');
    await june.goto(`/work/${copy?.split('/').at(-1)}`);
    await enterAnswer(
      june,
      june.locator('.ProseMirror .answer-short, .ProseMirror .answer-writing').first(),
    );
    await june.keyboard.type('Tide');
    await running.getByText('1 writing now').waitFor();
    await running.getByRole('link', { name: 'June Hesper, writing now' }).waitFor();
  });
});

it('shows a marker what is to be marked, and nothing of what only those who lead can do', async () => {
  const { page } = await stage.enter('bea.lindqvist');
  await page.getByRole('heading', { name: 'Answer' }).waitFor();
  await page.getByRole('link', { name: /^Mark: A light/ }).waitFor();
  for (const name of ['Mend', 'Nudge', 'Coming'])
    expect(await page.getByRole('heading', { name }).count()).toBe(0);
});

describe('a student’s first view', () => {
  it('says what is next and who wrote to them, and their answer comes to the teacher’s desk', async () => {
    const { page: june } = await stage.enter('june.hesper');
    const next = june.getByRole('region', { name: 'Next' });
    await next.getByRole('link', { name: /(Begin|Go on|Look over and hand in)$/ }).waitFor();
    await next.getByText(/due/).first().waitFor();
    const { page } = await stage.enter('tamsin.orrey');
    const { page: desk } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByRole('button', { name: /^Hesper, June, Harbour sketch/ }).click();
    await page.getByRole('button', { name: 'Say something' }).click();
    await page.getByLabel('Comment on the whole copy').fill('Where is “north” on your page?');
    await page.getByRole('button', { name: 'Add comment' }).click();
    const written = june.getByRole('link', { name: /^Where is “north” on your page/ });
    await written.click();
    await june.getByLabel('Reply').first().fill('At the top?');
    await june.getByRole('button', { name: 'Send' }).click();
    await june.getByText('At the top?').waitFor();
    // It comes to a desk that is open by itself.
    await line(desk, 'in the margin').getByText('June Hesper').waitFor();
    await june.getByRole('link', { name: 'My work' }).click();
    await next.waitFor();
    expect(await written.count()).toBe(0);
    await page.goto('/desk');
    await line(page, 'in the margin').getByText('June Hesper').waitFor();
    await line(page, 'in the margin').getByRole('link', { name: /^Read/ }).click();
    await page.getByText('At the top?').waitFor();
  });
});

it('the workbook of a student tells the story of their weeks', async () => {
  const { page } = await stage.enter('tamsin.orrey');
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await page
    .getByRole('region', { name: 'Board of 8C' })
    .getByRole('link', { name: 'Fennick, Ada' })
    .click();
  await page.getByRole('heading', { name: 'The story of the weeks' }).waitFor();
  await page.getByRole('img', { name: /^Minutes of work by week: week 1/ }).waitFor();
  const weeks = page.getByRole('listitem').filter({ hasText: /^Week \d/ });
  expect(await weeks.count()).toBeGreaterThan(3);
  await weeks.filter({ hasText: 'handed in Harbour sketch' }).first().waitFor();
});
