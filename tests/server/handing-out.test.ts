import { grantInClass, grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { beforeAll, describe, expect, it } from 'vitest';
import { ReplaceStep } from 'prosemirror-transform';
import { Fragment, Slice } from 'prosemirror-model';
import { plainSpec, type HandOutSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { readMailbox } from '../../src/lib/server/message/messages';
import type { ChangeFact } from '../../src/lib/core/handout/change-facts';
import type { HandOutPlan } from '../../src/lib/core/handout/plan';
import { sayChangeFact } from '../../src/lib/core/handout/say-change';
import { sayPlanFact } from '../../src/lib/core/handout/say-plan';
import { factsFor, stateOf } from '../../src/lib/core/copy/state';
import { findClass, type ClassThing } from '../../src/lib/server/access/relation';
import { readCopies, readCopy } from '../../src/lib/server/copy/facts';
import { score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { readOwnWork } from '../../src/lib/server/copy/own-work';
import { moveAlong } from '../../src/lib/server/copy/move-along';
import { readBoard } from '../../src/lib/server/class/board';
import { readOutdated } from '../../src/lib/server/handout/corrections';
import { handOutWhenDue, saveDraft, readDrafts } from '../../src/lib/server/handout/drafts';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { readAssignmentChanges } from '../../src/lib/server/handout/undo';
import { viewAssignment, whatTheyHave } from '../../src/lib/server/handout/view-assignment';
import { readRosterChanges } from '../../src/lib/server/roster/apply-roster';
import { useApp } from '../support/app';
import { makeBoats, makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';
import {
  allowAs,
  changeAs,
  correctAs,
  handOutAs,
  previewChangeAs,
  previewCorrectionAs,
  undoAs,
  withdrawAs,
  rosterAs,
  undoRosterAs,
} from '../support/deeds';
import { toMark, toWork, toSee, newPage } from '../support/grants';

const test = useApp();
let school: TestSchool;
let original: string;
let grouping: string;
let klass: ClassThing;

beforeAll(async () => {
  school = await makeSchool(test.app, 5);
  original = await newPage(
    test.app.db,
    {
      in: { kind: 'original', course: school.course },
      title: 'Tide',
      at: new Date(),
    },
    questionPage(),
  );
  grouping = await makeBoats(test.app, school);
  const found = await findClass(test.app.db, school.teacher, school.class);
  if (!found) throw new Error('no class');
  klass = found.thing;
});

const spec = (
  more: Partial<HandOutSpec> = {},
  delivery?: HandOutSpec['originals'][number]['delivery'],
) =>
  plainSpec(original, school.class, {
    title: 'Tide',
    ...more,
    ...(delivery ? { originals: [{ page: original, delivery }] } : {}),
    ...(delivery === 'one per group'
      ? { classes: [{ class: school.class, unit: null, grouping, due: null }] }
      : {}),
  });
async function out(given: HandOutSpec) {
  const id = crypto.randomUUID();
  const plan = await handOutAs(test.app, { id, spec: given, by: school.teacher, at: new Date() });
  return { id, plan };
}
const by = () => ({ by: school.teacher, at: new Date() });
const change = (
  assignment: string,
  given: HandOutSpec,
  begin: 'shared page' | 'original' = 'original',
) => changeAs(test.app, { assignment, spec: given, begin, ...by() });
const toSeeAssignment = (assignment: string, place = school.class) =>
  grantOnAssignment(test.app.db, 'see the assignment', school.teacher, {
    assignment,
    class: place,
  });
const mine = async (assignment: string, student: number, place?: string) =>
  whatTheyHave(test.app, await toSeeAssignment(assignment, place), school.students[student] ?? '');
const relation = async (student: number, page: string) =>
  (await test.app.findPage(school.students[student] ?? '', page))?.relation;
/** Types into the short answer, as one who has the page. */
async function write(page: string, student: number, text: string) {
  const { version } = await test.app.pages.open(page);
  const step = new ReplaceStep(
    PLACES.short,
    PLACES.short,
    new Slice(Fragment.from(schema.text(text)), 0, 0),
  );
  await test.app.pages.append(
    page,
    { id: school.students[student] ?? '', owner: true },
    {
      base: version,
      client: `writer-${crypto.randomUUID().slice(0, 8)}`,
      first: 1,
      lost: [],
      steps: [step.toJSON()],
    },
  );
}
const textOf = async (page: string) => (await test.app.pages.open(page)).doc.textContent;

const ZONE = 'Europe/Dublin';
const said = ({ facts }: HandOutPlan) => facts.map((fact) => sayPlanFact(fact, ZONE));
const saidOf = (facts: readonly ChangeFact[]) => facts.map((fact) => sayChangeFact(fact, ZONE));

describe('what is handed out', () => {
  it.each([
    ['to read', [5], 'reader', '5 students will read the page; nobody writes on it.'],
    ['one for all', [5], 'owner', '1 page will be shared by 5 students of 7A.'],
    [
      'one per group',
      [2, 2, 1],
      'owner',
      '2 pages will be made, one for each group in 7A, for 4 students.',
    ],
    [
      'one each',
      [1, 1, 1, 1, 1],
      'owner',
      '5 copies will be made, each named for its student in 7A.',
    ],
  ] as const)(
    '%s is what its plan said, and for each student one page with that right',
    async (delivery, sizes, right, sentence) => {
      const { id, plan } = await out(spec({}, delivery));
      expect(said(plan)[0]).toBe(sentence);
      const copies = (
        await readCopies(test.app.db, { class: school.class }, school.teacher)
      ).filter((copy) => copy.assignment === id);
      expect(copies.map(({ members }) => members.length).sort()).toEqual([...sizes].sort());
      for (const student of school.students.keys()) {
        const own = copies.filter(({ members }) =>
          members.includes(school.students[student] ?? ''),
        );
        expect(own).toHaveLength(1);
        for (const copy of copies)
          expect(await relation(student, copy.id)).toBe(copy === own[0] ? right : 'nobody');
        const work = await readOwnWork(test.app, school.students[student] ?? '');
        expect(work.filter(({ assignment }) => assignment === id)).toHaveLength(1);
      }
      expect(await test.app.findPage(school.otherStudent, copies[0]?.id ?? '')).toMatchObject({
        relation: 'nobody',
      });
    },
  );

  it('is shared for writing and handed in together', async () => {
    const { id } = await out(spec({}, 'one per group'));
    const [tern] = await mine(id, 0);
    await write(tern?.id ?? '', 0, 'ebb');
    await write(tern?.id ?? '', 1, 'and ');
    expect(await textOf(tern?.id ?? '')).toContain('and ebb');
    await handIn(
      test.app,
      await toWork(test.app, { page: tern?.id ?? '', person: school.students[1] ?? '' }),
      '',
    );
    expect(stateOf((await readCopy(test.app.db, tern?.id ?? '', school.teacher)).facts)).toBe(
      'handed in',
    );
    await expect(write(tern?.id ?? '', 0, 'more')).rejects.toThrow('handed in');
  });

  it('reaches who has an adapted page with that page, unseen by the others', async () => {
    const adapted = await newPage(
      test.app.db,
      {
        in: { kind: 'original', course: school.course },
        title: 'Tide, wider',
        at: new Date(),
      },
      questionPage(),
    );
    await test.app.db
      .updateTable('page')
      .set({ adapted: true, from_id: original, from_version: 0 })
      .where('id', '=', adapted)
      .execute();
    const students = [school.students[3] ?? ''];
    const { id, plan } = await out(
      spec({ adapted: [{ page: adapted, instead: original, students }] }),
    );
    expect(said(plan)[0]).toContain(
      ': 4 of the page and 1 of an adapted page, which only that student will see',
    );
    const copies = await readCopies(test.app.db, { class: school.class }, school.teacher);
    const special = copies.find((copy) => copy.assignment === id && copy.student === students[0]);
    const { source_id } = await test.app.db
      .selectFrom('page')
      .select('source_id')
      .where('id', '=', special?.id ?? '')
      .executeTakeFirstOrThrow();
    expect(source_id).toBe(adapted);
    expect(await relation(0, special?.id ?? '')).toBe('nobody');
  });

  it('can have no page at all, and is done when its student says so', async () => {
    const { id } = await out(
      spec({ form: 'done or not', originals: [], title: 'Bring your boots' }),
    );
    const [task] = await mine(id, 2);
    await handIn(
      test.app,
      await toWork(test.app, { page: task?.id ?? '', person: school.students[2] ?? '' }),
      '',
    );
    expect(stateOf((await readCopy(test.app.db, task?.id ?? '', school.teacher)).facts)).toBe(
      'handed in',
    );
  });

  it('is refused to who does not teach there, or may not use the page', async () => {
    await expect(CheckedSpec.check(test.app, school.stranger, spec())).rejects.toMatchObject({
      status: 403,
    });
    await expect(CheckedSpec.check(test.app, school.marker, spec())).rejects.toMatchObject({
      status: 403,
    });
    const other = spec({
      classes: [{ class: school.otherClass, unit: null, grouping: null, due: null }],
    });
    await expect(CheckedSpec.check(test.app, school.stranger, other)).rejects.toMatchObject({
      status: 404,
    });
    await expect(CheckedSpec.check(test.app, school.teacher, other)).rejects.toMatchObject({
      status: 403,
    });
    await CheckedSpec.check(test.app, school.teacher, spec());
  });
});

describe('a draft', () => {
  const draft = async (id: string, goesOut: Date | null, version = 0, title = 'Later') => {
    const grant = await grantInClass(test.app.db, 'hand out', school.teacher, school.class);
    return saveDraft(test.app, grant, { id, spec: spec({ title }), goesOut, version }, new Date());
  };
  it('tells of what else is planned, and nothing of classes that are not its writer’s', async () => {
    const mine = await grantInClass(test.app.db, 'hand out', school.teacher, school.class);
    const goesOut = new Date(Date.now() + 3_600_000);
    const plan = (grant: typeof mine) => {
      const planned = {
        id: crypto.randomUUID(),
        spec: spec({ title: 'Mine' }),
        goesOut,
        version: 0,
      };
      return saveDraft(test.app, grant, { ...planned, asks: true }, new Date());
    };
    const first = await plan(mine);
    if ('version' in first) expect(await plan(mine)).toMatchObject({ known: { planned: true } });
    else expect(first).toHaveProperty('known');
    const theirs = await grantInClass(test.app.db, 'hand out', school.stranger, school.otherClass);
    await expect(plan(theirs)).rejects.toMatchObject({ status: 403 });
    await test.app.db.deleteFrom('hand_out').where('class_id', '=', school.class).execute();
  });

  const made = (id: string) =>
    test.app.db.selectFrom('assignment').select('id').where('id', '=', id).execute();

  it('goes out at its time, once, however often its job runs; a changed time counts', async () => {
    const id = crypto.randomUUID();
    const soon = new Date(Date.now() + 3_600_000);
    await draft(id, soon);
    await handOutWhenDue(test.app, id, new Date());
    expect(await made(id)).toEqual([]);
    await draft(id, new Date(soon.getTime() + 3_600_000), 1);
    await handOutWhenDue(test.app, id, soon);
    expect(await made(id)).toEqual([]);
    const then = new Date(soon.getTime() + 3_600_000);
    await Promise.all([1, 2, 3].map(() => handOutWhenDue(test.app, id, then)));
    await handOutWhenDue(test.app, id, then);
    expect(await made(id)).toHaveLength(1);
    const copies = await readCopies(test.app.db, { class: school.class }, school.teacher);
    expect(copies.filter(({ assignment }) => assignment === id)).toHaveLength(5);
    expect((await readDrafts(test.app.db, [school.class])).map((one) => one.id)).not.toContain(id);
    await expect(draft(id, null)).rejects.toMatchObject({ status: 409 });
  });

  it('says so when it could not go out, and stays', async () => {
    const id = crypto.randomUUID();
    await draft(id, new Date(Date.now() + 1000), 0, 'Gone');
    const gone = spec({
      title: 'Gone',
      classes: [{ class: crypto.randomUUID(), unit: null, grouping: null, due: null }],
    });
    await test.app.db
      .updateTable('hand_out')
      .set({ spec: JSON.stringify(gone) })
      .where('id', '=', id)
      .execute();
    await handOutWhenDue(test.app, id, new Date(Date.now() + 2000));
    const [kept] = (await readDrafts(test.app.db, [school.class])).filter((one) => one.id === id);
    expect(kept).toMatchObject({
      goesOut: null,
      fault: expect.stringContaining('do not hand out'),
    });
    const told = await readMailbox(test.app.db, school.teacher);
    expect(told.map(({ subject }) => subject)).toContain('“Gone” was not handed out');
  });

  it('is not planned for a time that has passed', async () => {
    await expect(draft(crypto.randomUUID(), new Date(0))).rejects.toMatchObject({ status: 400 });
  });
});

describe('a change after handing out', () => {
  it('from shared to one each begins with the page as it stood, keeps that to be read, and is undone', async () => {
    const { id } = await out(spec({}, 'one for all'));
    const [shared] = await mine(id, 0);
    await write(shared?.id ?? '', 0, 'Written together.');
    const preview = await previewChangeAs(test.app, {
      assignment: id,
      spec: spec({}, 'one each'),
      begin: 'shared page',
      ...by(),
    });
    const says = await change(id, spec({}, 'one each'), 'shared page');
    expect(says).toEqual(preview.facts);
    expect(saidOf(says)).toEqual([
      '5 new pages will be made, one each, for 5 students; each begins as the shared page stands now.',
      '1 page will be kept for 5 students to read, and written in no longer.',
    ]);
    const now = await mine(id, 1);
    expect(now.map(({ mayWrite, replaced }) => [mayWrite, replaced])).toEqual([
      [false, true],
      [true, false],
    ]);
    const own = now.find(({ mayWrite }) => mayWrite)?.id ?? '';
    expect(await textOf(own)).toContain('Written together.');
    expect(await relation(1, shared?.id ?? '')).toBe('reader');
    await write(own, 1, 'Mine: ');
    const [last] = await readAssignmentChanges(test.app.db, id);
    await undoAs(test.app, { assignment: id, change: last?.id ?? '', ...by() });
    expect((await mine(id, 1)).map(({ id: page, mayWrite }) => [page, mayWrite])).toEqual([
      [shared?.id, true],
      [own, false],
    ]);
    expect(await textOf(own)).toContain('Mine: ');
    await expect(
      undoAs(test.app, { assignment: id, change: last?.id ?? '', ...by() }),
    ).rejects.toMatchObject({ status: 409 });
  });

  it('of dates, points, title and guard reaches every copy, and says so before', async () => {
    const { id } = await out(spec());
    const due = { kind: 'at', local: '2031-05-06T10:00' } as const;
    const says = await change(id, spec({ title: 'Ebb', points: '7.5', guarded: false, due }));
    expect(saidOf(says)).toEqual([
      'It will be called “Ebb”.',
      'In 7A it will be due Tuesday 6 May, 10:00, not without a due time.',
      'It will count for 7½ points, not no points; points that were given stay as they are.',
      'Your text will not be guarded any more.',
    ]);
    const rows = await test.app.db
      .selectFrom('page')
      .select(['title', 'guarded'])
      .where('assignment_id', '=', id)
      .execute();
    expect(new Set(rows.map((row) => JSON.stringify(row)))).toEqual(
      new Set(['{"title":"Ebb","guarded":false}']),
    );
    const [copy] = (await readCopies(test.app.db, { class: school.class }, school.teacher)).filter(
      (one) => one.assignment === id,
    );
    expect(copy?.facts.due).toBe(Date.parse('2031-05-06T09:00:00Z'));
    expect(await change(id, spec({ title: 'Ebb', points: '7.5', guarded: false, due }))).toEqual(
      [],
    );
  });

  it('of points says which copies have more than that, and leaves them what was given', async () => {
    const { id } = await out(spec({ points: '10' }));
    const [copy] = (await readCopies(test.app.db, { class: school.class }, school.teacher)).filter(
      (one) => one.assignment === id,
    );
    const marking = await toMark(test.app, { page: copy?.id ?? '', person: school.teacher });
    await score(test.app, marking, { given: { points: '4' } });
    await score(test.app, marking, { given: { points: '9' } });
    expect(saidOf(await change(id, spec({ points: '7.5' })))).toContain(
      '1 copy has more than 7½ points. It keeps what was given.',
    );
    expect(Number((await readCopy(test.app.db, copy?.id ?? '', school.teacher)).points)).toBe(9);
    expect(saidOf(await change(id, spec({ points: '9' })))).toHaveLength(1);
  });

  it('gives back, undone, the very due time that a lesson had set', async () => {
    const { id } = await out(spec({ due: { kind: 'at', local: '2031-05-06T10:00' } }));
    const was = new Date('2026-10-14T13:50:00Z');
    await test.app.db
      .updateTable('assignment_class')
      .set({ due_at: was })
      .where('assignment_id', '=', id)
      .execute();
    const due = async () =>
      (
        await test.app.db
          .selectFrom('assignment_class')
          .select('due_at')
          .where('assignment_id', '=', id)
          .executeTakeFirstOrThrow()
      ).due_at;
    await change(id, spec({ due: { kind: 'none' } }));
    expect(await due()).toBeNull();
    const [last] = await readAssignmentChanges(test.app.db, id);
    await undoAs(test.app, { assignment: id, change: last?.id ?? '', ...by() });
    expect(await due()).toEqual(was);
  });

  it('withdraws for all or for some, and brings back what was there', async () => {
    const { id } = await out(spec());
    const [copy] = await mine(id, 0);
    await write(copy?.id ?? '', 0, 'kept');
    await withdrawAs(test.app, school.teacher, id, school.class, true);
    expect(await mine(id, 0)).toEqual([]);
    expect(await relation(0, copy?.id ?? '')).toBe('nobody');
    await withdrawAs(test.app, school.teacher, id, school.class, false);
    expect(await relation(0, copy?.id ?? '')).toBe('owner');
    await change(id, spec({ without: [school.students[0] ?? ''] }));
    expect(await relation(0, copy?.id ?? '')).toBe('nobody');
    await change(id, spec());
    expect(await relation(0, copy?.id ?? '')).toBe('owner');
    expect(await textOf(copy?.id ?? '')).toContain('kept');
  });

  it('is refused for another thing than it is, and two at once come one after the other', async () => {
    const { id } = await out(spec());
    await expect(change(id, spec({ form: 'done or not', originals: [] }))).rejects.toMatchObject({
      status: 400,
    });
    await Promise.all(
      (['one for all', 'one each', 'to read'] as const).map((delivery) =>
        change(id, spec({}, delivery)),
      ),
    );
    for (const student of school.students.keys())
      expect((await mine(id, student)).filter(({ replaced }) => !replaced)).toHaveLength(1);
  });
});

describe('a corrected original', () => {
  it('comes into the copies, leaves what students wrote, says what stayed, and can be undone', async () => {
    const page = await newPage(
      test.app.db,
      {
        in: { kind: 'original', course: school.course },
        title: 'Light',
        at: new Date(),
      },
      questionPage(),
    );
    const { id } = await out(plainSpec(page, school.class, { title: 'Light', guarded: false }));
    const copies = await Promise.all(
      school.students.map(async (_, n) => (await mine(id, n))[0]?.id ?? ''),
    );
    await write(copies[0] ?? '', 0, 'my answer');
    const spoil = new ReplaceStep(1, 8, new Slice(Fragment.from(schema.text('Spoilt')), 0, 0));
    await test.app.pages.append(
      copies[1] ?? '',
      { id: school.students[1] ?? '', owner: true },
      { base: 0, client: 'spoiling-one', first: 1, lost: [], steps: [spoil.toJSON()] },
    );
    await handIn(
      test.app,
      await toWork(test.app, { page: copies[2] ?? '', person: school.students[2] ?? '' }),
      '',
    );
    const fix = new ReplaceStep(1, 8, new Slice(Fragment.from(schema.text('Corrected')), 0, 0));
    await test.app.pages.append(
      page,
      { id: school.teacher, owner: false },
      { base: 0, client: 'correcting-one', first: 1, lost: [], steps: [fix.toJSON()] },
    );
    const [outdated] = await readOutdated(test.app, id);
    const asked = { assignment: id, page, to: outdated?.is ?? 0 };
    const preview = await previewCorrectionAs(test.app, { ...asked, by: school.teacher });
    expect(saidOf(preview.facts)).toEqual([
      '3 copies will have the corrected text, 1 of them begun; what is written in them stays.',
      'In 1 copy something that was corrected has been written in, and stays as it is: student2 Person.',
      '1 copy is handed in and stays as it is.',
    ]);
    expect(await correctAs(test.app, { ...asked, ...by() })).toEqual(preview.facts);
    const texts = await Promise.all(copies.map(textOf));
    expect(texts.map((text) => text.includes('Corrected'))).toEqual([
      true,
      false,
      false,
      true,
      true,
    ]);
    expect(texts[0]).toContain('my answer');
    expect(texts[1]).toContain('Spoilt');
    expect(await readOutdated(test.app, id)).toEqual([]);
    const facts = (await readCopy(test.app.db, copies[4] ?? '', school.teacher)).facts;
    expect(stateOf(facts)).toBe('unopened');
    expect(preview.passages).toEqual([
      { was: 'Guarded words of the teacher.', is: 'Corrected words of the teacher.' },
    ]);
    const [last] = await readAssignmentChanges(test.app.db, id);
    await undoAs(test.app, { assignment: id, change: last?.id ?? '', ...by() });
    // The undoing is no change of its own.
    expect(await readAssignmentChanges(test.app.db, id)).toEqual([{ ...last, undone: true }]);
    const back = await Promise.all(copies.map(textOf));
    expect(back.map((text) => text.includes('Corrected'))).toEqual([
      false,
      false,
      false,
      false,
      false,
    ]);
    expect(back[0]).toContain('my answer');
  });
});

describe('one student', () => {
  it('has more time, or is excused, and it can be taken back', async () => {
    const { id } = await out(
      spec({ due: { kind: 'at', local: '2020-01-06T10:00' }, late: 'not taken' }),
    );
    const student = school.students[0] ?? '';
    const [copy] = await mine(id, 0);
    const page = copy?.id ?? '';
    const facts = async () => (await readCopy(test.app.db, page, school.teacher)).facts;
    await expect(
      handIn(test.app, await toWork(test.app, { page, person: student }), ''),
    ).rejects.toThrow('not taken any more');
    const given = { assignment: id, class: school.class, student, note: 'was ill', ...by() };
    await allowAs(test.app, { ...given, kind: 'excused', due: null });
    expect((await facts()).allowance).toBe('excused');
    const later = new Date(Date.now() + 3_600_000);
    await allowAs(test.app, { ...given, kind: 'extension', due: later });
    expect(await facts()).toMatchObject({ allowance: 'extension', due: later.getTime() });
    await handIn(test.app, await toWork(test.app, { page, person: student }), '');
    await allowAs(test.app, { ...given, kind: 'as for all', due: null });
    expect(await facts()).toMatchObject({
      allowance: null,
      due: Date.parse('2020-01-06T10:00:00Z'),
    });
    await expect(
      allowAs(test.app, { ...given, student: school.otherStudent, kind: 'excused', due: null }),
    ).rejects.toMatchObject({ status: 404 });
  });
});

describe('who goes to another class of the course', () => {
  it('takes along what she wrote, once: the copy where both have it, else as a page of her own', async () => {
    const { db } = test.app;
    const { term_id } = klass;
    const parallel = await db
      .insertInto('class')
      .values({
        school_id: school.id,
        course_id: school.course,
        term_id,
        name: '7C',
        opened_at: new Date(),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db
      .insertInto('class_staff')
      .values({
        school_id: school.id,
        class_id: parallel.id,
        person_id: school.teacher,
        kind: 'lead',
      })
      .execute();
    const both = await out(
      spec({
        classes: [school.class, parallel.id].map((id) => ({
          class: id,
          unit: null,
          grouping: null,
          due: null,
        })),
      }),
    );
    const only = await out(spec({ title: 'Only in 7A' }));
    const untouched = await out(spec({ title: 'Never begun' }));
    const student = school.students[4] ?? '';
    const copyOf = async (assignment: string) => (await mine(assignment, 4))[0]?.id ?? '';
    const shared = await copyOf(both.id);
    await write(shared, 4, 'both');
    await write(await copyOf(only.id), 4, 'only');
    const person = await db
      .selectFrom('person')
      .select(['given', 'family'])
      .where('id', '=', student)
      .executeTakeFirstOrThrow();
    const entry = { line: 1, ...person, email: '', officeId: '' };
    const rest = { by: school.teacher, source: 'by hand', officeClass: null };
    const there = await findClass(db, school.teacher, parallel.id);
    if (!there) throw new Error('no class');
    const joins = (more: (typeof entry)[], keys: string[]) =>
      rosterAs(test.app, there.thing, {
        entries: [entry, ...more],
        whole: false,
        chosen: [`joins ${student}`, ...keys].map((key) => ({ key })),
        ...rest,
      });
    const leaves = () =>
      rosterAs(test.app, klass, {
        entries: [],
        whole: true,
        chosen: [{ key: `leaves ${student}` }],
        ...rest,
      });
    await joins([], []);
    const inNew = (title?: string) =>
      db
        .selectFrom('page')
        .select(['id', 'title', 'kind'])
        .where('class_id', '=', parallel.id)
        .where('student_id', '=', student)
        .$if(title !== undefined, (query) => query.where('title', '=', title ?? ''))
        .execute();
    // She is in both until the other roster says that she left.
    expect(await inNew('Only in 7A')).toEqual([]);
    await leaves();
    const [taken, ...more] = await inNew('Only in 7A');
    expect(more).toEqual([]);
    expect(taken?.kind).toBe('own page');
    expect(await textOf(taken?.id ?? '')).toContain('only');
    expect((await test.app.findPage(student, taken?.id ?? ''))?.relation).toBe('writer');
    const here = await readCopies(db, { class: parallel.id }, school.teacher);
    expect(here.find(({ id }) => id === shared)?.student).toBe(student);
    expect((await mine(both.id, 4, parallel.id)).map(({ id, mayWrite }) => [id, mayWrite])).toEqual(
      [[shared, true]],
    );
    expect(await inNew('Never begun')).toEqual([]);
    expect(untouched.plan.copies.length).toBeGreaterThan(0);
    // Undone in the order in which it was done backwards, her copy is back where it was.
    for (const roster of [klass, there.thing]) {
      const [last] = await readRosterChanges(db, roster.id);
      await undoRosterAs(test.app, school.teacher, roster, last?.id ?? '');
    }
    const back = await readCopies(db, { class: school.class }, school.teacher);
    expect(back.find(({ id }) => id === shared)?.student).toBe(student);
    // The other way round, beside somebody new, for whom the class's rule holds.
    await db
      .updateTable('class')
      .set({ join_rule: 'coming' })
      .where('id', '=', parallel.id)
      .execute();
    await leaves();
    await joins([{ ...entry, line: 2, given: 'Nova', family: 'New' }], ['joins new  New, Nova']);
    const again = await readCopies(db, { class: parallel.id }, school.teacher);
    expect(again.filter(({ assignment }) => assignment === both.id)).toMatchObject([
      { id: shared, student },
    ]);
    await Promise.all([moveAlong(test.app, [student]), moveAlong(test.app, [student])]);
    expect(await inNew('Only in 7A')).toHaveLength(1);
  });
});

describe('what is only read', () => {
  it('is opened by each for herself, which its teacher sees and the others do not', async () => {
    const { id } = await out(spec({ title: 'To read' }, 'to read'));
    const [page] = await mine(id, 0);
    for (const student of school.students.slice(0, 2))
      for (let time = 0; time < 2; time++)
        await opened(test.app, await toSee(test.app, { page: page?.id ?? '', person: student }));
    const { copies } = await readBoard(test.app.db, school.class, school.teacher);
    const read = copies.find((copy) => copy.id === page?.id);
    expect([...(read?.openers ?? [])].sort()).toEqual(school.students.slice(0, 2).sort());
    const stands = (student: number) =>
      read && stateOf(factsFor(read, school.students[student] ?? ''));
    expect([stands(0), stands(2)]).toEqual(['opened', 'unopened']);
    const own = (await readOwnWork(test.app, school.students[2] ?? '')).find(
      (copy) => copy.id === page?.id,
    );
    expect(own?.openers).toEqual([]);
  });
});

describe('who joins later', () => {
  async function join(given: string) {
    const key = `joins new  New, ${given}`;
    await rosterAs(test.app, klass, {
      entries: [{ line: 1, given, family: 'New', email: '', officeId: '' }],
      officeClass: null,
      whole: false,
      chosen: [{ key }],
      by: school.teacher,
      source: 'by hand',
    });
    const person = await test.app.db
      .selectFrom('person')
      .select('id')
      .where('given', '=', given)
      .executeTakeFirstOrThrow();
    return person.id;
  }
  const rule = (join_rule: 'open' | 'coming' | 'ask') =>
    test.app.db.updateTable('class').set({ join_rule }).where('id', '=', school.class).execute();

  it('gets what is open, only what comes, or what the teacher says', async () => {
    const each = await out(spec({ title: 'Each' }));
    const all = await out(spec({ title: 'All' }, 'one for all'));
    const over = await out(
      spec({ title: 'Over', due: { kind: 'at', local: '2020-01-06T10:00' }, late: 'not taken' }),
    );
    const of = async (person: string) =>
      (await readOwnWork(test.app, person)).map(({ assignment }) => assignment);
    await rule('open');
    const ines = await of(await join('Ines'));
    expect(ines).toEqual(expect.arrayContaining([each.id, all.id]));
    expect(ines).not.toContain(over.id);
    await rule('coming');
    expect(await of(await join('Otto'))).toEqual([]);
    await rule('ask');
    const vita = await join('Vita');
    expect(await of(vita)).toEqual([]);
    const told = await readMailbox(test.app.db, school.teacher);
    expect(told.map(({ subject }) => subject)).toContain('A student joined 7A');
    const { missing } = await viewAssignment(test.app, await toSeeAssignment(each.id), Date.now());
    expect(missing).toContain(vita);
    expect(missing).not.toContain(ines);
  });
});
