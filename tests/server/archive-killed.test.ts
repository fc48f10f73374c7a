import { execFileSync } from 'node:child_process';
import { expect, inject, it } from 'vitest';
import { startApp } from '../../src/lib/server/app';
import { connect } from '../../src/lib/server/db/connect';
import { readSettings } from '../../src/lib/server/settings';
import { makeArchive, unpack } from '../support/archives';
import { freshDatabase } from '../support/database';
import { fullClass } from '../support/full-class';
import { HeldTable } from '../support/held-table';
import { PASSWORD } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

it('an archive whose server is killed is made whole later, and until then there is none; so with one that is opened', async () => {
  const url = await freshDatabase(inject('server'), inject('template'));
  const app = await startApp(readSettings({ DATABASE_URL: url, LOG_LEVEL: 'silent' }));
  const { school } = await fullClass(app);
  // From here on the only process that works is the one that is killed.
  await app.close();
  const server = await Server.start(url);
  const db = connect(url, 2);
  const teacher = new Visitor(server.origin);
  await teacher.signIn(`teacher${school.id}`, PASSWORD);
  const archive = (kind: 'whole' | 'brought') =>
    db
      .selectFrom('archive')
      .select(['id', 'finished_at', 'fault', 'class_id'])
      .where('kind', '=', kind)
      .executeTakeFirst();
  const until = async (kind: 'whole' | 'brought') => {
    await expect.poll(async () => (await archive(kind))?.finished_at ?? null).not.toBeNull();
  };
  const file = `/classes/${school.class}/archive/file`;

  // Killed where answer keys are read: pages are written, and most of the record is not.
  const keys = await HeldTable.hold(url, 'answer_key', 'readers');
  await teacher.submit(`/classes/${school.class}/close?/archive`, { until: '' });
  await keys.someoneWaits();
  expect((await teacher.fetch(file)).status).toBe(404);
  await server.kill();
  await keys.letGo();
  expect(await db.selectFrom('archive_piece').select('n').execute()).toEqual([]);
  await server.up();
  await until('whole');
  const answer = await teacher.fetch(file);
  const zip = Buffer.from(await answer.arrayBuffer());
  expect(answer.headers.get('content-length')).toBe(String(zip.length));
  const bag = await unpack(zip);
  execFileSync('sha256sum', ['--check', '--strict', '--quiet', 'manifest-sha256.txt'], {
    cwd: bag,
  });

  // Killed where comments are written: the class is nearly there, and nobody sees it.
  const classes = async () => (await db.selectFrom('class').select('id').execute()).length;
  const before = await classes();
  const comments = await HeldTable.hold(url, 'comment');
  const { id } = await (
    await teacher.send('/classes/open', { name: 'a.zip', size: zip.length })
  ).json();
  const piece = await teacher.fetch(`/classes/open/${id}/0`, {
    method: 'PUT',
    body: new Uint8Array(zip),
    headers: { 'content-type': 'application/octet-stream' },
  });
  expect(await piece.text()).toBe('{}');
  expect((await teacher.send(`/classes/open/${id}`, {})).status).toBe(200);
  await comments.someoneWaits();
  await server.kill();
  await comments.letGo();
  expect(await classes()).toBe(before);
  await server.up();
  await until('brought');
  const opened = await archive('brought');
  expect([opened?.fault, await classes()]).toEqual([null, before + 1]);
  await server.stop();
  const again = await startApp(readSettings({ DATABASE_URL: url, LOG_LEVEL: 'silent' }));
  const of = { class: opened?.class_id ?? '', school: school.id, by: school.teacher };
  const second = await unpack(await makeArchive(again, of));
  execFileSync('diff', [
    '-r',
    '--exclude=bag-info.txt',
    '--exclude=tagmanifest-sha256.txt',
    bag,
    second,
  ]);
  await again.close();
  await db.destroy();
}, 120_000);
