import { Transform } from 'prosemirror-transform';
import type { Node } from 'prosemirror-model';
import { PLAIN_RULES } from '../../src/lib/core/grades/rules';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { putAttachedAway } from '../../src/lib/server/attached/attach';
import { lookAtAttached } from '../../src/lib/server/attached/look-at';
import { storeUnits } from '../../src/lib/server/closing/store-units';
import { decideProposals, type DEEDS } from '../../src/lib/server/copy/decide-proposals';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { writeKey } from '../../src/lib/server/course/answer-keys';
import type { AnswerKey } from '../../src/lib/core/marking/answer-key';
import { handIn, opened, takeBack } from '../../src/lib/server/copy/moves';
import { beginAs } from '../../src/lib/server/copy/own-pages';
import { propose } from '../../src/lib/server/copy/propose';
import { setWithdrawn } from '../../src/lib/server/copy/withdraw-comment';
import { addComment, beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { addUnit } from '../../src/lib/server/course/units';
import { placePictures, savePicture } from '../../src/lib/server/file/files';
import { saveRules } from '../../src/lib/server/grades/gradebook';
import { nameVersion, putBack } from '../../src/lib/server/history/put-back';
import { attachBytes, attachKeptLink, sendWithComment } from './attach';
import { allowAs, handOutAs, withdrawAs } from './deeds';
import {
  inClass,
  inCourse,
  newPage,
  toComment,
  toKeep,
  toMark,
  toPutBack,
  toSee,
  toWork,
} from './grants';
import { scoredByMany } from './scored-by-many';
import { assign, makeBoats, makeSchool, PLACES, questionPage, type TestSchool } from './school';

/** A class in which everything happened that can happen in one, with names that are hard on files and tables. */
export interface FullClass {
  school: TestSchool;
  /** One each, scored by a rubric. */
  task: { assignment: string; original: string; copies: string[] };
  picture: string;
}

/** The smallest PNG: one dot. */
const DOT = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

/** Another dot. */
const STAMP = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M/wHwAEBgIApD5fRAAAAABJRU5ErkJggg==',
  'base64',
);

let clients = 0;
/** Where an answer of `questionPage` begins, as a page stands. */
function placeOf(page: Node, part: 'short' | 'writing'): number {
  let place = 0;
  page.descendants((node, pos) => {
    if (node.attrs.id === part) place = pos + (part === 'short' ? 1 : 2);
    return place === 0;
  });
  return place;
}

/** Somebody writes in an answer, before what stands there. */
async function write(
  app: App,
  page: string,
  by: { id: string; owner: boolean },
  part: 'short' | 'writing',
  text: string,
): Promise<void> {
  const { doc, version } = await app.pages.open(page);
  const { steps } = new Transform(doc).insert(placeOf(doc, part), schema.text(text));
  await app.pages.append(page, by, {
    base: version,
    client: `full-class-client-${++clients}`,
    first: 1,
    lost: [],
    steps: steps.map((step) => step.toJSON()),
  });
}

const NAMES = [
  ['Isla', 'O’Abernathy "Quill"'],
  ['Žofie', 'Dvořák / Nováková'],
  ['isla', 'o’abernathy "quill"'],
  ['CON', 'Łukasz: *star*'],
  ['Gone', 'Away'],
];

export async function fullClass(app: App): Promise<FullClass> {
  const school = await makeSchool(app, NAMES.length);
  const { db } = app;
  const { class: klass, course, teacher, marker, students } = school;
  const [one = '', two = '', three = '', four = '', gone = ''] = students;
  for (const [index, [given = '', family = '']] of NAMES.entries())
    await db
      .updateTable('person')
      .set({ given, family, email: `student${index}@school.example` })
      .where('id', '=', students[index] ?? '')
      .execute();
  await db
    .insertInto('office_map')
    .values({ school_id: school.id, kind: 'person', sourced_id: 'S-1', person_id: one })
    .execute();
  await db
    .insertInto('holiday')
    .values({ school_id: school.id, name: 'Half-term', starts: '2026-10-26', ends: '2026-10-30' })
    .execute();
  await db
    .insertInto('lesson_slot')
    .values({ school_id: school.id, class_id: klass, weekday: 2, starts: '09:00', ends: '09:50' })
    .execute();
  const lead = await inClass(db, klass);
  await saveRules(app, lead, {
    version: 0,
    rules: {
      ...PLAIN_RULES,
      total: 'weights',
      missing: 'zero',
      categories: [{ name: 'tasks', weight: '40', drop: 1 }],
    },
  });
  const unit = await addUnit(db, lead, 'Tide & light <1>');
  const stored = await addUnit(db, lead, 'Put away');
  await storeUnits(app, lead, [stored], true);
  const grouping = await makeBoats(app, school);
  const at = new Date();
  for (const [area, title] of [
    ['shelf', 'Reading: “lights”'],
    ['worktable', 'Words we found'],
    ['cupboard', 'Reading: “lights”'],
  ] as const)
    await newPage(
      db,
      { title, at, unit, in: { kind: 'class page', class: klass, area } },
      questionPage(),
    );
  const rubric = await beginRubric(
    db,
    await inCourse(db, course),
    { unit: null, title: 'Method?' },
    { levels: [0, 2, 4], criteria: [{ id: 'c', title: 'Method', descriptors: ['a', 'b', 'c'] }] },
  );
  const picture = await savePicture(db, DOT, { id: teacher, school_id: school.id });
  const pictured = questionPage();
  const page = pictured.copy(
    pictured.content
      .addToEnd(schema.node('picture', { file: picture, alt: 'a dot' }))
      .addToEnd(
        schema.node('paragraph', null, [schema.node('formula', { tex: 'h=\\frac{a}{2}' })]),
      ),
  );
  const task = await assign(app, school, { page, rubric, title: 'Task: 50% "really"?', due: at });
  const author = {
    id: teacher,
    school_id: school.id,
    role: 'teacher',
    given: '',
    family: '',
    called: '',
  } as const;
  await placePictures(app, author, task.original, [picture]);
  await db
    .insertInto('answer_key')
    .values({
      page_id: task.original,
      part_id: 'short',
      school_id: school.id,
      body: JSON.stringify({ kind: 'short', accepted: ['SECRET-KEY'] }),
    })
    .execute();
  await db
    .updateTable('assignment_class')
    .set({ unit_id: unit })
    .where('assignment_id', '=', task.assignment)
    .execute();
  await work(app, school, task.copies, rubric);
  await allowAs(app, {
    by: teacher,
    assignment: task.assignment,
    class: klass,
    student: three,
    kind: 'extension',
    due: new Date('2026-12-01T10:00:00Z'),
    note: 'ill',
    at,
  });
  const hand = (more: Parameters<typeof plainSpec>[2]) =>
    handOutAs(app, {
      id: crypto.randomUUID(),
      by: teacher,
      at: new Date(),
      spec: plainSpec(task.original, klass, more),
    });
  const classes = [{ class: klass, unit, grouping, due: null }];
  const originals = (delivery: 'one per group' | 'to read' | 'one for all') => [
    { page: task.original, delivery },
  ];
  await hand({ title: 'Boats', originals: originals('one per group'), classes });
  await hand({ title: 'To read', originals: originals('to read'), without: [four] });
  await hand({ title: 'Done or not', form: 'done or not', originals: [], points: null });
  await hand({ title: 'For all', originals: originals('one for all'), only: [one, two] });
  const each = crypto.randomUUID();
  await handOutAs(app, {
    id: each,
    by: teacher,
    at: new Date(),
    spec: plainSpec(task.original, klass, {
      title: 'Each says done',
      originals: originals('one for all'),
      only: [one, two],
      handIn: 'each',
    }),
  });
  const { id: eachPage } = await db
    .selectFrom('page')
    .select('id')
    .where('assignment_id', '=', each)
    .executeTakeFirstOrThrow();
  for (const person of [one, two])
    await handIn(app, await toWork(app, { page: eachPage, person }), '');
  await takeBack(app, await toWork(app, { page: eachPage, person: two }));
  await shared(app, school);
  const tested = await assign(app, school, { title: 'A test', marking: 'by key, handed back' });
  const test = { page: tested.copies[0] ?? '', person: school.students[0] ?? '' };
  const { source_id: keyed } = await app.db
    .selectFrom('page')
    .select('source_id')
    .where('id', '=', test.page)
    .executeTakeFirstOrThrow();
  const short: AnswerKey = { kind: 'short', accepted: ['a tide'] };
  const keep = await toKeep(app, { page: keyed ?? '', person: teacher });
  await writeKey(app.db, keep, 'short', short);
  await opened(app, await toSee(app, test));
  await handIn(app, await toWork(app, test), '');

  await scoredByMany(app, school, { rubric, picture: STAMP });

  const withdrawn = await assign(app, school, { title: 'Taken back' });
  await withdrawAs(app, teacher, withdrawn.assignment, klass, true);
  const own = await beginAs(
    app,
    { school: school.id, class: klass, student: one, title: 'My own: notes', unit },
    questionPage(),
  );
  await write(app, own, { id: one, owner: true }, 'writing', 'Mine alone. ');
  await db
    .insertInto('note')
    .values([
      { school_id: school.id, unit_id: unit, text: 'PRIVATE-NOTE shorter', made_by: teacher },
      { school_id: school.id, course_id: course, text: 'PRIVATE-NOTE course', made_by: teacher },
      { school_id: school.id, page_id: task.original, text: 'PRIVATE-NOTE page', made_by: teacher },
    ])
    .execute();
  await db
    .updateTable('enrolment')
    .set({ left_at: new Date() })
    .where('person_id', '=', gone)
    .execute();
  await beginThread(app, await toComment(app, { page: task.copies[1] ?? '', person: marker }), {
    text: 'On all of it',
    anchor: null,
  });
  return { school, task, picture };
}

/** What becomes of the first student's copy, and of the others'. */
/** Documents that are shown as pages, a file in pieces, and one that was removed again. */
async function attach(app: App, where: { page: string; person: string }, by: string) {
  const notes = Buffer.from('# Notes\n\nTwo metres at the steps.');
  const attachment = await attachBytes(app, where, { name: 'Notes "50%": é.md', bytes: notes });
  await lookAtAttached(app, { attachment, keep: false });
  const dot = await attachBytes(app, where, { name: 'dot.png', bytes: DOT, piece: 30 });
  await beginThread(app, await toComment(app, { page: where.page, person: by }), {
    text: 'This dot?',
    anchor: null,
    on: { attachment: dot, spot: { kind: 'point', page: null, x: 0.25, y: 0.5 }, quote: '' },
  });
  const wrong = await attachBytes(app, where, {
    name: 'dot.png',
    bytes: Buffer.concat([DOT, Buffer.from('not this')]),
  });
  await putAttachedAway(app, await toWork(app, where), wrong, true);
  // A teacher collected it for this copy, and took it off: it was another’s.
  const other = await attachBytes(app, where, {
    name: 'other.txt',
    bytes: Buffer.from('SOMEBODY-ELSES'),
  });
  await app.db
    .updateTable('attachment')
    .set({ away_at: new Date(), undone: true })
    .where('id', '=', other)
    .execute();
}

/** Proposals that were taken, left and undone, and what students heard nothing of. */
async function proposeAll(
  app: App,
  { page, teacher, student }: { page: string; teacher: string; student: string },
) {
  const grant = await toMark(app, { page, person: teacher });
  const offer = async (at: number, words: string, keptBack = false) => {
    const { doc, version } = await app.pages.open(page);
    const { steps } = new Transform(doc).insert(at, schema.text(words));
    const json = steps.map((step) => step.toJSON() as object);
    await propose(app, grant, { version, proposals: [{ steps: json }], keptBack });
  };
  const decide = async (deed: (typeof DEEDS)[number], no: number) => {
    const { proposals } = await readMargin(app, page, { id: student, isStudent: true });
    const own = await toWork(app, { page, person: student });
    await decideProposals(app, own, { deed, ids: [proposals[no]?.id ?? ''] });
  };
  await offer(PLACES.short, 'a very ');
  await offer(PLACES.short, 'no ');
  await decide('take', 0);
  await decide('undo', 0);
  await decide('take', 0);
  await decide('leave', 1);
  await offer(PLACES.short, 'PRIVATE-PROPOSAL ', true);
  const comment = await toComment(app, { page, person: teacher });
  const words = { text: 'PRIVATE-NOTE for us', anchor: null };
  await beginThread(app, comment, { ...words, staffOnly: true });
  await beginThread(app, comment, { text: 'Comes with the copy.', anchor: null, keptBack: true });
  const send = (text: string) =>
    sendWithComment(app, { page, person: teacher }, { name: `${text}.png`, bytes: DOT });
  await beginThread(app, comment, {
    text: 'Look at $x^2$.',
    anchor: null,
    criterion: 'c',
    file: await send('Shown'),
  });
  await beginThread(app, comment, {
    ...words,
    staffOnly: true,
    file: await send('PRIVATE-NOTE'),
  });
}

async function work(
  app: App,
  { teacher, marker, students, id }: TestSchool,
  copies: string[],
  rubric: string,
) {
  const [one = '', two = ''] = students;
  const [first = '', second = '', third = ''] = copies;
  const mine = { id: one, owner: true };
  await opened(app, await toSee(app, { page: first, person: one }));
  await write(app, first, mine, 'short', 'a rock awash');
  await write(app, first, mine, 'writing', 'Twelve to the sixth.');
  await nameVersion(app, await toPutBack(app, { page: first, person: one }), {
    version: 1,
    name: 'Before the tide',
  });
  await beginThread(app, await toComment(app, { page: first, person: teacher }), {
    text: 'Which <one>?',
    anchor: { from: PLACES.short, to: PLACES.short + 4, version: 2 },
  });
  const { threads } = await readMargin(app, first, { id: teacher, isStudent: false });
  await addComment(app, await toComment(app, { page: first, person: one }), threads[0]?.id ?? '', {
    kind: 'said',
    text: 'The one "there".',
  });
  await addComment(
    app,
    await toComment(app, { page: first, person: teacher }),
    threads[0]?.id ?? '',
    {
      kind: 'settled',
      text: '',
    },
  );
  const byTeacher = await toComment(app, { page: first, person: teacher });
  const slip = await beginThread(app, byTeacher, {
    text: 'KEPT-BACK, and withdrawn',
    anchor: null,
    keptBack: true,
  });
  await setWithdrawn(app, byTeacher, slip.comment, true);
  await proposeAll(app, { page: first, teacher, student: one });
  await putBack(app, await toPutBack(app, { page: first, person: one }), { version: 1 });
  await attach(app, { page: first, person: one }, teacher);
  await handIn(app, await toWork(app, { page: first, person: one }), 'Please look');
  const scoring = (points: string) => ({
    given: {
      scoring: { criteria: [{ id: 'c', points, words: 'Nearly.' }], overruled: null },
      rubric: { id: rubric, version: 0 },
    },
  });
  await handBack(app, await toMark(app, { page: first, person: teacher }), scoring('3'));
  await write(app, first, mine, 'short', 'again ');
  await handIn(app, await toWork(app, { page: first, person: one }), '');
  await score(app, await toMark(app, { page: first, person: marker }), {
    given: {
      scoring: {
        criteria: [{ id: 'c', points: '4', words: 'KEPT-BACK words' }],
        overruled: { points: '9.5', reason: 'KEPT-BACK reason' },
      },
      rubric: { id: rubric, version: 0 },
    },
  });
  await write(app, second, { id: two, owner: true }, 'short', 'a wreck');
  await attachKeptLink(
    app,
    { page: second, person: two },
    {
      url: 'https://documents.example.org/d/wreck',
      name: 'wreck.txt',
      bytes: Buffer.from('It lies north.'),
    },
  );
  await score(app, await toMark(app, { page: third, person: teacher }), {
    given: { points: '2.25' },
  });
  await app.db
    .insertInto('set_aside')
    .values({
      page_id: second,
      client: 'lost-client',
      client_no: 1,
      school_id: id,
      author_id: two,
      at: new Date(),
      base_version: 0,
      body: JSON.stringify({ stepType: 'replace', from: 1, to: 1 }),
      words: 'words without a place',
    })
    .execute();
}

/** Two who share a page write in it. */
async function shared(app: App, { class: klass, students }: TestSchool) {
  const [one = '', two = ''] = students;
  const pages = await app.db
    .selectFrom('page')
    .innerJoin('page_member', 'page_member.page_id', 'page.id')
    .select(['page.id', 'delivery'])
    .where('class_id', '=', klass)
    .where('person_id', '=', one)
    .where('delivery', 'in', ['one per group', 'one for all'])
    .execute();
  for (const { id } of pages) {
    await write(app, id, { id: one, owner: true }, 'short', 'from one ');
    await write(app, id, { id: two, owner: true }, 'short', 'from two ');
  }
}
