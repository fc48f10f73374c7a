import { setTimeout as pause } from 'node:timers/promises';
import { expect, it } from 'vitest';
import { plainWish } from '../../src/lib/core/handout/wish';
import { useApp } from '../support/app';
import { assign, makeSchool, PASSWORD } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
const STUDENTS = 400;

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
  for (const wait of [0, 15, 30, 45, 60, 90]) {
    const id = crypto.randomUUID();
    const sent = send(id).catch(() => null);
    await pause(wait);
    await server.kill();
    await sent;
    outcomes.push(await made(id));
    await server.up();
    const again = await send(id);
    // Sent again with the same mark: it is handed out now, or was before.
    expect([200, 409]).toContain(again.status);
    expect(await made(id)).toBe(STUDENTS);
  }
  expect(outcomes.filter((count) => count !== 0 && count !== STUDENTS)).toEqual([]);
  await server.stop();
});
