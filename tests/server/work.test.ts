import { sql } from 'kysely';
import { beforeAll, describe, expect, it } from 'vitest';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { readWork, tryAgain } from '../../src/lib/server/jobs/work';
import { useApp } from '../support/app';
import { ofOffice } from '../support/grants';
import { makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let other: TestSchool;

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  other = await makeSchool(test.app, 1);
});

describe('background work', () => {
  it('is seen and tried again by the office of its school, and by no other', async () => {
    const { app } = test;
    const [ours, theirs] = [
      await ofOffice(app.db, school.office),
      await ofOffice(app.db, other.office),
    ];
    const read = async () => (await readWork(app.db, ours, Date.now()))[0];
    // There is no such change, so it fails each time.
    await inTransaction(app.db, (tx) =>
      app.jobs.put(tx, school.id, 'bring correction', { change: crypto.randomUUID() }),
    );
    await expect.poll(async () => (await read())?.state).toBe('tried again');
    await sql`update pgboss.job set state = 'failed', completed_on = now()`.execute(app.db);
    const failed = await read();
    expect(failed).toMatchObject({ kind: 'bring correction', state: 'failed' });
    expect(failed?.fault).toMatch(/^Something unexpected, number /);
    expect(await readWork(app.db, theirs, Date.now())).toEqual([]);
    const again = { id: failed?.id ?? '', kind: 'bring correction' };
    await expect(tryAgain(app, theirs, again)).rejects.toMatchObject({ status: 404 });
    expect((await read())?.state).toBe('failed');
    await tryAgain(app, ours, again);
    expect((await read())?.state).not.toBe('failed');
  });

  it('goes on at once where more waits: a class that hands in files is not kept for a second each', async () => {
    const { app } = test;
    const left = async () => {
      const { rows } = await sql`select 1 from pgboss.job
        where name = 'look-at-attached' and state <> 'completed'`.execute(app.db);
      return rows.length;
    };
    const began = Date.now();
    await inTransaction(app.db, async (tx) => {
      for (let one = 0; one < 40; one++)
        await app.jobs.put(tx, school.id, 'look at attached', {
          attachment: crypto.randomUUID(),
          keep: false,
        });
    });
    await expect.poll(left).toBe(0);
    expect(Date.now() - began).toBeLessThan(15_000);
  });
});
