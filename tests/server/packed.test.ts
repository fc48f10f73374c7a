import { describe, expect, it } from 'vitest';
import { Slice, Fragment } from 'prosemirror-model';
import { ReplaceStep, Step } from 'prosemirror-transform';
import { schema } from '../../src/lib/core/page/schema';
import { PageMemory } from '../../src/lib/server/page/page-memory';
import { PageLog } from '../../src/lib/server/page/page-log';
import { loggedJson, readPage, readSteps } from '../../src/lib/server/page/page-store';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES } from '../support/school';

const test = useApp();
const TWO = ['client-of-student', 'client-of-teacher'];

/** A copy that a student and a teacher wrote 450 steps on, a few at a time, every second. */
async function writtenCopy() {
  const school = await makeSchool(test.app, 2);
  const { copies } = await assign(test.app, school);
  const copy = copies[0] ?? '';
  const student = { id: school.students[0] ?? '', owner: true };
  const teacher = { id: school.teacher, owner: false };
  let now = Date.parse('2026-11-02T10:00:00.123Z');
  const log = () => new PageLog(test.app.db, new PageMemory(), test.app.news, () => now);
  const pages = log();
  const sent: unknown[] = [];
  const numbers = [0, 0];
  for (let base = 0; base < 450; base += 3) {
    const which = base % 5 === 0 ? 1 : 0;
    const author = which ? teacher : student;
    const client = TWO[which] ?? '';
    const first = (numbers[which] ?? 0) + 1;
    const steps = [0, 1, 2].map((i) => {
      const slice = new Slice(Fragment.from(schema.text(String((base + i) % 10))), 0, 0);
      return new ReplaceStep(PLACES.writing, PLACES.writing, slice).toJSON();
    });
    now += 1000;
    await pages.append(copy, author, { base, client, first, lost: [], steps });
    for (const [i, body] of steps.entries())
      sent.push({
        version: base + i + 1,
        client,
        client_no: first + i,
        author_id: author.id,
        at: new Date(now),
        body,
      });
    numbers[which] = first + 2;
  }
  const row = await test.app.db
    .selectFrom('page')
    .selectAll()
    .where('id', '=', copy)
    .executeTakeFirstOrThrow();
  return { copy, student, teacher, log, sent, numbers, row };
}
const unpacked = async (copy: string) =>
  (
    await test.app.db.selectFrom('step').select('version').where('page_id', '=', copy).execute()
  ).map(({ version }) => version);

describe('steps before a snapshot', () => {
  it('lie packed, and say who, when and what as they did: each stretch of them, and each version', async () => {
    const { copy, sent, row } = await writtenCopy();
    expect(Math.min(...(await unpacked(copy)))).toBe(401);
    expect(await readSteps(test.app.db, copy, 0, 450)).toEqual(sent);
    for (const [from, to] of [
      [0, 1],
      [199, 201],
      [200, 400],
      [150, 430],
      [449, 450],
      [450, 450],
    ] as const)
      expect(await readSteps(test.app.db, copy, from, to)).toEqual(sent.slice(from, to));
    let { doc } = await readPage(test.app.db, row, 0);
    for (const { version, body } of (await readSteps(test.app.db, copy, 0, 450)).map(loggedJson)) {
      doc = Step.fromJSON(schema, body).apply(doc).doc ?? doc;
      if (version % 37 === 0 || version % 200 < 2)
        expect((await readPage(test.app.db, row, version)).doc.eq(doc)).toBe(true);
    }
  });

  it('are known by their clients after a restart: none is taken twice, and nobody writes under another’s name', async () => {
    const { copy, student, teacher, log, numbers } = await writtenCopy();
    const slice = new Slice(Fragment.from(schema.text('!')), 0, 0);
    const step = new ReplaceStep(PLACES.writing, PLACES.writing, slice).toJSON();
    const from = (client: string, first: number) => ({
      base: 450,
      client,
      first,
      lost: [],
      steps: [step],
    });
    // The clients' last steps are long packed when two hundred others have come after them.
    const pages = log();
    for (let i = 0; i < 200; i++)
      await pages.append(copy, student, { ...from('another', i + 1), base: 450 + i });
    expect(Math.min(...(await unpacked(copy)))).toBe(601);
    const restarted = log();
    const again = await restarted.append(copy, teacher, from(TWO[1] ?? '', numbers[1] ?? 0));
    expect(again.version).toBe(650);
    await expect(
      restarted.append(copy, student, from(TWO[1] ?? '', (numbers[1] ?? 0) + 1)),
    ).rejects.toThrow('open under another name');
    const next = await restarted.append(copy, teacher, from(TWO[1] ?? '', (numbers[1] ?? 0) + 1));
    expect(next.version).toBe(651);
  });

  it('stay: neither a pack nor what is in none can be changed or taken away', async () => {
    const { copy } = await writtenCopy();
    const { db } = test.app;
    const packs = db.selectFrom('step_pack').selectAll().where('page_id', '=', copy);
    const before = await packs.execute();
    expect(before.map(({ first, last }) => [first, last])).toEqual([
      [1, 200],
      [201, 400],
    ]);
    await expect(db.deleteFrom('step').where('page_id', '=', copy).execute()).rejects.toThrow(
      'only ever added, or packed',
    );
    await expect(db.deleteFrom('step_pack').where('page_id', '=', copy).execute()).rejects.toThrow(
      'only ever added',
    );
    await expect(
      db.updateTable('step_pack').set({ last: 399 }).where('page_id', '=', copy).execute(),
    ).rejects.toThrow('only ever added');
    expect(await packs.execute()).toEqual(before);
  });
});
