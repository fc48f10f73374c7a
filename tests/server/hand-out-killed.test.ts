import { expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { useApp } from '../support/app';
import { HeldTable } from '../support/held-table';
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
  const spec = plainSpec(original, school.class, { title: 'Killed' });
  const made = async (id: string) =>
    (await test.app.db.selectFrom('page').select('id').where('assignment_id', '=', id).execute())
      .length;
  const send = (id: string) =>
    teacher.send(`/classes/${school.class}/hand-out/${id}`, { spec, again: true });
  // Where a hand-out stands when it is killed: before its copies, in the midst of them, behind all of them.
  for (const table of ['assignment_class', 'page', 'pgboss.job']) {
    const id = crypto.randomUUID();
    const held = await HeldTable.hold(test.url, table);
    const sent = send(id).catch(() => null);
    await held.someoneWaits();
    await server.kill();
    await held.letGo();
    expect(await sent).toBeNull();
    expect(await made(id)).toBe(0);
    await server.up();
    // Sent again with the same mark it is handed out, once.
    expect((await send(id)).status).toBe(200);
    expect((await send(id)).status).toBe(409);
    expect(await made(id)).toBe(STUDENTS);
  }
  await server.stop();
});
