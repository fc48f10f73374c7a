import { describe, expect, it } from 'vitest';
import { loadDemo } from '../../demo/load';
import { flagsOf, stateOf } from '../../src/lib/core/copy/state';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { readGaps } from '../../src/lib/server/headcount/mend';
import { readCopies } from '../../src/lib/server/copy/facts';
import { readSittings } from '../../src/lib/server/copy/open-copy';
import { readPage } from '../../src/lib/server/page/page-store';
import { rebuildKept } from '../../src/lib/server/page/rebuild-kept';
import { useApp } from '../support/app';

// A Sunday: the demo must have something to say whenever today is.
const NOW = Date.parse('2027-03-28T13:00:00Z');
const first = useApp();
const second = useApp();

const contents = async (app: typeof first.app) => {
  const pages = await app.db
    .selectFrom('page')
    .select([
      'title',
      'version',
      'done_mask',
      'words',
      'student_id',
      'written_at',
      'with_teacher',
      'threads',
      'level',
    ])
    .where('kind', '=', 'copy')
    .orderBy('id')
    .execute();
  return pages.map((page) => JSON.stringify(page)).sort();
};

describe('the demo', () => {
  it('is the same school in two runs, and what it keeps for speed agrees with its log', async () => {
    await loadDemo(first.app, NOW);
    await loadDemo(second.app, NOW);
    const kept = await contents(first.app);
    expect(kept).toHaveLength((24 + 25 + 22) * 5 + 2 * 24 + 6 + 1 + 21 * 4);
    expect(await contents(second.app)).toEqual(kept);
    await rebuildKept(first.app.db);
    expect(await contents(first.app)).toEqual(kept);
    // Two schools are loaded, and one is made again page by page.
  }, 240_000);

  it('has copies in every state that the slice knows, some late, some overdue', async () => {
    const { id } = await first.app.db
      .selectFrom('class')
      .select('id')
      .where('name', '=', '8C')
      .where('archived_at', 'is', null)
      .executeTakeFirstOrThrow();
    const teacher = await first.app.db
      .selectFrom('person')
      .select('id')
      .where('sign_in_name', '=', 'tamsin.orrey')
      .executeTakeFirstOrThrow();
    const copies = await readCopies(first.app.db, { class: id }, teacher.id);
    const states = new Set(copies.map((copy) => stateOf(copy.facts)));
    expect([...states].sort()).toEqual([
      'attached',
      'handed back',
      'handed in',
      'marked',
      'opened',
      'revising',
      'unopened',
      'working',
    ]);
    expect(copies.some((copy) => flagsOf(copy.facts, NOW).late)).toBe(true);
    // Whatever is missing, or not where it should be, occurs.
    const grant = await grantInClass(first.app.db, 'manage the class', teacher.id, id);
    const causes = new Set((await readGaps(first.app, grant, NOW)).map(({ cause }) => cause));
    for (const cause of [
      'never made',
      'emptied',
      'pasted over',
      'worked elsewhere',
      'attached',
      'cannot be opened',
    ] as const)
      expect(causes).toContain(cause);
    expect(copies.some((copy) => flagsOf(copy.facts, NOW).overdue)).toBe(true);
    // What came back has proposals that wait for their students.
    const proposals = await first.app.db.selectFrom('proposal').select(['kind', 'was']).execute();
    expect(new Set(proposals.map(({ kind }) => kind))).toEqual(new Set(['replace', 'insert']));
    expect(
      copies.every(({ facts }) => (facts.written ?? 0) < NOW && (facts.handedIn ?? 0) < NOW),
    ).toBe(true);
  });

  it('has 8C of last year, archived, with what came back in it and an archive to download', async () => {
    const klass = await first.app.db
      .selectFrom('class')
      .select(['id', 'read_until'])
      .where('archived_at', 'is not', null)
      .executeTakeFirstOrThrow();
    const copies = await readCopies(first.app.db, { class: klass.id }, '');
    const back = copies.filter((copy) => stateOf(copy.facts) === 'handed back');
    expect([copies.length, back.length]).toEqual([84, 80]);
    const archive = await first.app.db
      .selectFrom('archive')
      .select(['name', 'fault'])
      .where('class_id', '=', klass.id)
      .where('finished_at', 'is not', null)
      .execute();
    expect(archive).toEqual([{ name: '8C Coast & Chart, Autumn term 2026.zip', fault: null }]);
  });

  it('was written in sittings, and each page can be made again from its steps', async () => {
    const copies = await first.app.db
      .selectFrom('page')
      .selectAll()
      .where('version', '>', 60)
      .execute();
    expect(copies.length).toBeGreaterThan(20);
    for (const copy of copies.slice(0, 12)) {
      const sittings = await readSittings(first.app, copy.id);
      expect(sittings.reduce((sum, { steps }) => sum + steps, 0)).toBe(copy.version);
      expect(sittings.length).toBeLessThan(8);
      const snapshot = await readPage(first.app.db, copy);
      await first.app.db.deleteFrom('snapshot').where('page_id', '=', copy.id).execute();
      expect((await readPage(first.app.db, copy)).doc.eq(snapshot.doc)).toBe(true);
    }
  });
});
