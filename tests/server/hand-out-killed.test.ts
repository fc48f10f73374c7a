import { setImmediate as turnOfEvents } from 'node:timers/promises';
import { sql } from 'kysely';
import { expect, it } from 'vitest';
import { plainWish } from '../../src/lib/core/handout/wish';
import { useApp } from '../support/app';
import { assign, makeSchool, PASSWORD } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
const STUDENTS = 400;

/** Whether some process of this database stands in a transaction that has written copies. */
async function isInTransaction(): Promise<boolean> {
  const { rows } = await sql<{ n: number }>`select count(*)::int as n from pg_stat_activity
    where datname = current_database() and pid <> pg_backend_pid() and xact_start is not null
      and (query ilike '%assignment%' or query ilike 'insert into page%')
      and query not ilike '%pgboss%'`.execute(test.app.db);
  return (rows[0]?.n ?? 0) > 0;
}

it('a hand-out whose server is killed has made every copy or none, and can be sent again', async () => {
  const school = await makeSchool(test.app, STUDENTS);
  const { original } = await assign(test.app, school);
  const server = await Server.start(test.url);
  const teacher = new Visitor(server.origin);
  await teacher.signIn(`teacher${school.id}`, PASSWORD);
  const wish = plainWish(original, school.class, { title: 'Killed' });
  const made = async (id: string) =>
    (await test.app.db.selectFrom('page').select('id').where('assignment_id', '=', id).execute())
      .length;
  const send = (id: string) => teacher.send(`/classes/${school.class}/hand-out/${id}`, { wish });
  const outcomes: number[] = [];
  let inside = 0;
  for (let turn = 0; turn < 8; turn++) {
    const id = crypto.randomUUID();
    let answered = false;
    const sent = send(id)
      .catch(() => null)
      .finally(() => (answered = true));
    // Killed as soon as its transaction is seen; some of them are over by then.
    while (!answered && !(await isInTransaction())) await turnOfEvents();
    if (await isInTransaction()) inside++;
    await server.kill();
    await sent;
    outcomes.push(await made(id));
    await server.up();
    const again = await send(id);
    // Sent again with the same mark: it is handed out now, or was before.
    expect([200, 409]).toContain(again.status);
    expect(await made(id)).toBe(STUDENTS);
  }
  expect(inside).toBeGreaterThan(0);
  expect(outcomes.filter((count) => count !== 0 && count !== STUDENTS)).toEqual([]);
  await server.stop();
});
