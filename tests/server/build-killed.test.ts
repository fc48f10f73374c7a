import { expect, inject, it } from 'vitest';
import { startApp } from '../../src/lib/server/app';
import { addUnit } from '../../src/lib/server/course/units';
import { connect } from '../../src/lib/server/db/connect';
import { readSettings } from '../../src/lib/server/settings';
import { HeldTable } from '../support/held-table';
import { freshDatabase } from '../support/database';
import { makeSchool, PASSWORD, questionPage } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';
import { inCourse, newPage } from '../support/grants';

const PAGES = 300;

it('a building whose server is killed goes on by itself, with no page twice and none missing', async () => {
  const url = await freshDatabase(inject('server'), inject('template'));
  const app = await startApp(readSettings({ DATABASE_URL: url, LOG_LEVEL: 'silent' }));
  const school = await makeSchool(app, 1);
  const unit = await addUnit(app.db, await inCourse(app.db, school.course), 'Tide');
  for (let n = 0; n < PAGES; n++)
    await newPage(
      app.db,
      {
        at: new Date(),
        title: `${n}`,
        unit,
        in: { kind: 'reading', course: school.course },
      },
      questionPage(),
    );
  // From here on the only process that works is the one that is killed.
  await app.close();
  const server = await Server.start(url);
  const db = connect(url, 2);
  const build = () =>
    db
      .selectFrom('class_build')
      .select(['done', 'finished_at'])
      .where('class_id', '=', school.class)
      .executeTakeFirst();
  const made = () =>
    db
      .selectFrom('page')
      .select('from_id')
      .where('class_id', '=', school.class)
      .where('kind', '=', 'class page')
      .execute();
  const until = async (is: (row: Awaited<ReturnType<typeof build>>) => boolean) => {
    while (!is(await build())) await new Promise((resolve) => setTimeout(resolve, 20));
  };
  const teacher = new Visitor(server.origin);
  await teacher.signIn(`teacher${school.id}`, PASSWORD);
  await teacher.submit(`/classes/${school.class}/build`, {
    from: `course ${school.course}`,
    unit,
    sections: 'follow',
    [`readings ${unit}`]: 'shelf',
    [`originals ${unit}`]: 'leave',
  });
  await until((row) => (row?.done ?? 0) > 0);
  // Killed where a portion's pages are written, and its keys are not yet.
  const keys = await HeldTable.hold(url, 'answer_key');
  await keys.someoneWaits();
  await server.kill();
  await keys.letGo();
  const done = (await build())?.done ?? 0;
  expect(done).toBeLessThan(PAGES);
  expect(await made()).toHaveLength(done);
  await server.up();
  await until((row) => Boolean(row?.finished_at));
  const pages = await made();
  expect([pages.length, new Set(pages.map(({ from_id }) => from_id)).size]).toEqual([PAGES, PAGES]);
  await db.destroy();
  await server.stop();
});
