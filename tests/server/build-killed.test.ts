import { expect, inject, it } from 'vitest';
import { startApp } from '../../src/lib/server/app';
import { beginPage } from '../../src/lib/server/course/begin-page';
import { addUnit } from '../../src/lib/server/course/units';
import { connect } from '../../src/lib/server/db/connect';
import { readSettings } from '../../src/lib/server/settings';
import { freshDatabase } from '../support/database';
import { makeSchool, PASSWORD, questionPage } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const PAGES = 1000;

it('a building whose server is killed goes on by itself, with no page twice and none missing', async () => {
  const url = await freshDatabase(inject('server'), inject('template'));
  const app = await startApp(readSettings({ DATABASE_URL: url, LOG_LEVEL: 'silent' }));
  const school = await makeSchool(app, 1);
  const unit = await addUnit(app.db, school.id, { course: school.course }, 'Tide');
  for (let n = 0; n < PAGES; n++)
    await beginPage(
      app.db,
      {
        ...{ school: school.id, at: new Date(), title: `${n}`, unit },
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
  const until = async (is: (row: Awaited<ReturnType<typeof build>>) => boolean) => {
    while (!is(await build())) await new Promise((resolve) => setTimeout(resolve, 20));
  };
  const teacher = new Visitor(server.origin);
  await teacher.signIn(`teacher${school.id}`, PASSWORD);
  await teacher.submit(`/classes/${school.class}/build`, {
    ...{ from: `course ${school.course}`, unit, sections: 'follow' },
    ...{ [`readings ${unit}`]: 'shelf', [`originals ${unit}`]: 'leave' },
  });
  await until((row) => (row?.done ?? 0) > 0);
  await server.kill();
  expect((await build())?.done).toBeLessThan(PAGES);
  await server.up();
  await until((row) => Boolean(row?.finished_at));
  const pages = await db
    .selectFrom('page')
    .select('from_id')
    .where('class_id', '=', school.class)
    .where('kind', '=', 'class page')
    .execute();
  expect([pages.length, new Set(pages.map(({ from_id }) => from_id)).size]).toEqual([PAGES, PAGES]);
  await db.destroy();
  await server.stop();
});
