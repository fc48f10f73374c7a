import { sql } from 'kysely';
import type { z } from 'zod';
import {
  Brought,
  RECORD_FILES,
  type AssignmentRecord,
  type CalendarRecord,
  type ClassRecord,
  type PageRecord,
  type PersonRecord,
  type RecordFile,
  type RubricRecord,
} from '$core/archive/record';
import { writeLocalTime } from '$core/calendar/local-time';
import { HandOutSpec } from '$core/handout/spec';
import { RubricTable } from '$core/marking/rubric';
import { Scoring } from '$core/marking/scoring';
import { checkText } from '../http/text';
import type { Tx } from '../db/transaction';
import { namePicture } from '../file/picture-name';
import { Refusal } from '../page/refusal';
import { ascendingIds } from './ascending-ids';
import type { BagReader } from './bag-reader';
import { analyzeNumbers, makeNumberTables, NUMBERED } from './numbers';

/** Lines that are taken in with one statement. */
const AT_ONCE = 500;
/** Pages that one archive holds at most. */
const MOST_PAGES = 100_000;

const broken = (file: string, what: string) =>
  new Refusal(422, `In “record/${file}” ${what} Nothing was taken from this archive.`);

type Thing<F extends RecordFile> = z.infer<(typeof RECORD_FILES)[F]['type']>;

/** One thing of a file, in its shape. @throws Refusal that says which is not */
function shaped<F extends RecordFile>(file: F, value: unknown, which: string): Thing<F> {
  checkText(value);
  const read = RECORD_FILES[file].type.safeParse(value);
  if (read.success) return read.data as Thing<F>;
  const [issue] = read.error.issues;
  throw broken(
    file,
    `${which} is not as it should be: ${issue?.path.join('.')} ${issue?.message}.`,
  );
}

function parsed(file: string, text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw broken(file, 'something is not JSON.');
  }
}

async function readOne<F extends 'class.json' | 'calendar.json'>(bag: BagReader, file: F) {
  return shaped(file, parsed(file, await bag.text(`data/record/${file}`)), 'it');
}

async function readList<F extends 'people.json' | 'rubrics.json' | 'assignments.json'>(
  bag: BagReader,
  file: F,
): Promise<Thing<F>[]> {
  const list = parsed(file, await bag.text(`data/record/${file}`));
  if (!Array.isArray(list)) throw broken(file, 'there is no list.');
  return list.map((one, index) => shaped(file, one, `number ${index + 1}`));
}

async function* readLines<F extends RecordFile>(bag: BagReader, file: F): AsyncGenerator<Thing<F>> {
  let line = 0;
  for await (const text of bag.lines(`data/record/${file}`))
    yield shaped(file, parsed(file, text), `line ${++line}`);
}

/** What stands in an archive besides what was written: held at once. */
export interface ArchivedClass {
  klass: z.infer<typeof ClassRecord>;
  calendar: z.infer<typeof CalendarRecord>;
  people: z.infer<typeof PersonRecord>[];
  rubrics: z.infer<typeof RubricRecord>[];
  assignments: z.infer<typeof AssignmentRecord>[];
  pages: z.infer<typeof PageRecord>[];
}

/** @throws Refusal */
export async function readArchivedClass(bag: BagReader): Promise<ArchivedClass> {
  if (!bag.has('data/record/class.json'))
    throw new Refusal(
      422,
      'This is a BagIt bag, and none that Uncia made: it has no record to be opened again.',
    );
  const pages: z.infer<typeof PageRecord>[] = [];
  for await (const page of readLines(bag, 'pages.ndjson')) {
    if (pages.push(page) > MOST_PAGES) throw broken('pages.ndjson', 'there are too many pages.');
  }
  const rubrics = await readList(bag, 'rubrics.json');
  for (const { body, title } of rubrics)
    if (!RubricTable.safeParse(body).success)
      throw broken('rubrics.json', `“${title}” is not a rubric.`);
  return {
    klass: await readOne(bag, 'class.json'),
    calendar: await readOne(bag, 'calendar.json'),
    people: await readList(bag, 'people.json'),
    rubrics,
    assignments: await readList(bag, 'assignments.json'),
    pages,
  };
}

/** Where an archive is opened, and by whom. */
export interface Opening {
  school: number;
  by: string;
}

const rows = (of: readonly object[]) => JSON.stringify(of);
const idOf = (table: string, number: string) =>
  sql.raw(`(select id from archived_${table} numbered where numbered.n = ${number})`);

/** Fills the tables of numbers with new ids; people get the id that the school knows them by. */
async function numberAll(tx: Tx, record: ArchivedClass, people: ReadonlyMap<number, string>) {
  await makeNumberTables(tx);
  const numbers: Record<(typeof NUMBERED)[number], readonly number[]> = {
    page: record.pages.map(({ n }) => n),
    unit: record.klass.units.map(({ n }) => n),
    assignment: record.assignments.map(({ n }) => n),
    rubric: record.rubrics.map(({ n }) => n),
    grouping: record.klass.groupings.map(({ n }) => n),
    // Numbered when they are read.
    thread: [],
  };
  for (const name of NUMBERED) {
    const newId = ascendingIds();
    await insertNumbers(
      tx,
      name,
      numbers[name].map((n) => ({ n, id: newId(n) })),
    );
  }
  await insertNumbers(
    tx,
    'person',
    [...people].map(([n, id]) => ({ n, id })),
  );
  await analyzeNumbers(tx);
}

async function insertNumbers(tx: Tx, name: string, pairs: readonly { n: number; id: string }[]) {
  await sql`insert into ${sql.table(`archived_${name}`)} (n, id)
    select * from jsonb_to_recordset(${rows(pairs)}::jsonb) as r(n int, id uuid)`.execute(tx);
}

/**
 * Whom the school knows: by the office's number, else by their e-mail address. All others stand as a name, and nobody
 * signs in as them. @returns the id of each, by number
 */
async function placePeople(
  tx: Tx,
  people: ArchivedClass['people'],
  { school }: Opening,
): Promise<{ ids: Map<number, string>; unknown: Set<number> }> {
  const known = await tx
    .selectFrom('person')
    .leftJoin('office_map', (join) =>
      join.onRef('office_map.person_id', '=', 'person.id').on('office_map.kind', '=', 'person'),
    )
    .select(['person.id', 'person.role', 'person.email', 'office_map.sourced_id as office'])
    .where('person.school_id', '=', school)
    .where('person.name_only', '=', false)
    .execute();
  const [ids, unknown, taken] = [new Map<number, string>(), new Set<number>(), new Set<string>()];
  const find = (one: ArchivedClass['people'][number]) => {
    const free = known.filter(({ id, role }) => role === one.role && !taken.has(id));
    const byNumber = free.find(({ office }) => one.office !== null && office === one.office);
    if (byNumber) return byNumber;
    const email = one.email.toLowerCase();
    const byMail = free.filter((other) => email !== '' && other.email.toLowerCase() === email);
    return byMail.length === 1 ? byMail[0] : undefined;
  };
  const newId = ascendingIds();
  for (const one of people) {
    const same = find(one);
    if (same) taken.add(same.id);
    else unknown.add(one.n);
    ids.set(one.n, same?.id ?? newId(one.n));
  }
  const names = people.flatMap(({ n, role, given, family, called, email }) =>
    unknown.has(n) ? { id: ids.get(n), role, given, family, called, email } : [],
  );
  await sql`insert into person (id, school_id, role, given, family, called, email, sign_in_name, password_hash, mails,
      name_only, disabled_at)
    select id, ${school}, role, given, family, called, email, 'archive ' || id, '', 'never', true, now()
    from jsonb_to_recordset(${rows(names)}::jsonb) as r(id uuid, role text, given text, family text, called text, email text)`.execute(
    tx,
  );
  return { ids, unknown };
}

/** The term of the school that a class of an archive stands in: of those days, or one that meets them, or a new one. */
async function placeTerm(tx: Tx, { term }: ArchivedClass['calendar'], school: number) {
  const { rows: met } = await sql<{ id: string }>`
    select id from term where school_id = ${school}
      and daterange(starts, ends, '[]') && daterange(${term.starts}, ${term.ends}, '[]')
    order by (starts = ${term.starts} and ends = ${term.ends}) desc,
      upper(daterange(starts, ends, '[]') * daterange(${term.starts}, ${term.ends}, '[]'))
        - lower(daterange(starts, ends, '[]') * daterange(${term.starts}, ${term.ends}, '[]')) desc limit 1`.execute(
    tx,
  );
  if (met[0]) return met[0].id;
  const { id } = await tx
    .insertInto('term')
    .values({ school_id: school, ...term })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/**
 * Makes an archived class of an archive, all of it or nothing, in one transaction.
 * @returns its id
 * @throws Refusal when the record does not hold together
 */
export async function makeClass(
  tx: Tx,
  bag: BagReader,
  record: ArchivedClass,
  opening: Opening,
  progress: (done: number, total: number) => Promise<void>,
): Promise<{ class: string; pages: string[] }> {
  const { klass, calendar, people, rubrics, assignments, pages } = record;
  const { school, by } = opening;
  if (!(calendar.term.starts <= calendar.term.ends))
    throw broken('calendar.json', 'the term ends before it begins.');
  const { ids, unknown } = await placePeople(tx, people, opening);
  await numberAll(tx, record, ids);
  // It holds what the copies began as; nobody has a part in it, so it stands in no list of courses.
  const { id: course } = await tx
    .insertInto('course')
    .values({ school_id: school, title: klass.course })
    .returning('id')
    .executeTakeFirstOrThrow();
  const office = Object.fromEntries(
    people.flatMap(({ n, office: number }) =>
      unknown.has(n) && number !== null ? [[ids.get(n), number]] : [],
    ),
  );
  const { id } = await tx
    .insertInto('class')
    .values({
      school_id: school,
      course_id: course,
      term_id: await placeTerm(tx, calendar, school),
      name: klass.name,
      about: klass.about,
      opened_at: klass.opened,
      archived_at: klass.archived,
      join_rule: klass.join_rule,
      grade_rules: klass.grade_rules === null ? null : JSON.stringify(klass.grade_rules),
      grade_rules_version: klass.grade_rules_version,
      brought: JSON.stringify(
        Brought.parse({
          school: klass.school,
          calendar,
          office,
          opener: { person: by, was: people.find(({ n }) => ids.get(n) === by)?.staff ?? null },
        }),
      ),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const here = { school, class: id, course };
  await insertFrame(tx, record, here, by);
  await insertRubrics(tx, rubrics, here);
  await insertPictures(tx, bag, pages, opening);
  await insertPages(
    tx,
    pages.filter((page) => page.kind !== 'copy'),
    here,
  );
  await insertAssignments(tx, assignments, here, await readIds(tx), opening);
  await insertPages(
    tx,
    pages.filter((page) => page.kind === 'copy'),
    here,
  );
  await insertNotes(tx, klass.notes, here);
  const { rows: made } = await sql<{ id: string }>`select id from archived_page order by n`.execute(
    tx,
  );
  const total = pages.reduce((sum, { version }) => sum + version, 0);
  await insertWritten(tx, bag, school, (done) => progress(Math.min(done, total), total));
  return { class: id, pages: made.map((page) => page.id) };
}

interface Here {
  school: number;
  class: string;
  course: string;
}

/** The new ids of what other things name, by number. */
async function readIds(tx: Tx): Promise<Record<string, Map<number, string>>> {
  const ids: Record<string, Map<number, string>> = {};
  for (const name of ['page', 'unit', 'grouping', 'rubric', 'person']) {
    const { rows: pairs } = await sql<{ n: number; id: string }>`
      select n, id from ${sql.table(`archived_${name}`)}`.execute(tx);
    ids[name] = new Map(pairs.map(({ n, id }) => [n, id]));
  }
  return ids;
}

/** Units, groups, lessons, who is in it, and what was done with it. */
async function insertFrame(
  tx: Tx,
  { klass, calendar, people }: ArchivedClass,
  { school, class: id }: Here,
  by: string,
) {
  await sql`insert into unit (id, school_id, class_id, title, place, away_at, stored_at)
    select ${idOf('unit', 'r.n')}, ${school}, ${id}, title, place, away, stored
    from jsonb_to_recordset(${rows(klass.units)}::jsonb)
      as r(n int, title text, place int, away timestamptz, stored timestamptz)`.execute(tx);
  await sql`insert into enrolment (class_id, school_id, person_id, joined_at, left_at)
    select ${id}, ${school}, ${idOf('person', 'r.n')}, joined, "left"
    from jsonb_to_recordset(${rows(people.filter(({ joined }) => joined !== null))}::jsonb)
      as r(n int, joined timestamptz, "left" timestamptz)`.execute(tx);
  await sql`insert into class_staff (class_id, school_id, person_id, kind)
    select ${id}, ${school}, ${idOf('person', 'r.n')}, staff
    from jsonb_to_recordset(${rows(people.filter(({ staff }) => staff !== null))}::jsonb) as r(n int, staff text)`.execute(
    tx,
  );
  await tx
    .insertInto('class_staff')
    .values({ class_id: id, school_id: school, person_id: by, kind: 'lead' })
    .onConflict((conflict) =>
      conflict.columns(['class_id', 'person_id']).doUpdateSet({ kind: 'lead' }),
    )
    .execute();
  await sql`insert into lesson_slot (school_id, class_id, weekday, starts, ends)
    select ${school}, ${id}, weekday, starts, ends from jsonb_to_recordset(${rows(calendar.lessons)}::jsonb)
      as r(weekday int, starts time, ends time)`.execute(tx);
  await sql`insert into class_event (school_id, class_id, person_id, at, kind)
    select ${school}, ${id}, ${idOf('person', 'r.by')}, at, kind
    from jsonb_to_recordset(${rows(klass.events)}::jsonb) as r(at timestamptz, by int, kind text)`.execute(
    tx,
  );
  for (const { n, name, groups } of klass.groupings) {
    await sql`insert into "grouping" (id, school_id, class_id, name)
      values (${idOf('grouping', String(n))}, ${school}, ${id}, ${name})`.execute(tx);
    for (const group of groups)
      await sql`with made as (insert into grouping_group (school_id, grouping_id, name, place)
          values (${school}, ${idOf('grouping', String(n))}, ${group.name}, ${group.place}) returning id, grouping_id)
        insert into group_member (group_id, grouping_id, school_id, person_id)
        select made.id, made.grouping_id, ${school}, member.id from made cross join unnest(${group.members}::int[]) of(n)
        join archived_person member on member.n = of.n`.execute(tx);
  }
}

const insertRubrics = (tx: Tx, rubrics: ArchivedClass['rubrics'], { school, course }: Here) =>
  sql`insert into rubric (id, school_id, course_id, title, body, version, made_by, made_at, away_at, place)
    select ${idOf('rubric', 'r.n')}, ${school}, ${course}, title, body, version, ${idOf('person', 'r.by')}, at, away, place
    from jsonb_to_recordset(${rows(rubrics)}::jsonb) as r(n int, title text, body jsonb, version int, by int,
      at timestamptz, away timestamptz, place int)`.execute(tx);

/** Pictures are what their names say: the digests of their bytes. */
async function insertPictures(
  tx: Tx,
  bag: BagReader,
  pages: ArchivedClass['pages'],
  { school, by }: Opening,
) {
  for (const hash of new Set(pages.flatMap((page) => page.pictures))) {
    const bytes = await bag.bytes(`data/record/files/${hash}`);
    const { name, type } = await namePicture(bytes);
    if (name !== hash) throw broken(`files/${hash}`, 'there is another picture.');
    await tx
      .insertInto('file')
      .values({ hash, school_id: school, type, bytes, made_by: by })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  }
}

async function insertPages(tx: Tx, pages: ArchivedClass['pages'], here: Here) {
  const { school, class: klass, course } = here;
  const isOurs = sql.raw(`kind in ('copy', 'class page', 'own page')`);
  await sql`insert into page (id, school_id, kind, title, course_id, class_id, unit_id, place, area, from_id, from_version,
      adapted, away_at, replaced_at, for_id, delivery, group_name, source_id, source_version, assignment_id, student_id,
      guarded, version, seen_from, done_mask, words, level, written_at, with_teacher, made_at, sealed)
    select ${idOf('page', 'r.n')}, ${school}, kind, title, case when not ${isOurs} then ${course}::uuid end,
      case when ${isOurs} then ${klass}::uuid end, ${idOf('unit', 'r.unit')}, place, area, ${idOf('page', 'r."from"')},
      from_version, adapted, away, replaced, ${idOf('page', 'r."for"')}, delivery, "group", ${idOf('page', 'r.source')},
      source_version, ${idOf('assignment', 'r.assignment')}, ${idOf('person', 'r.student')}, guarded, version, seen_from,
      done_mask, words, nullif(level, 'null'), written, with_teacher, made, true
    from jsonb_to_recordset(${rows(pages)}::jsonb) as r(n int, kind text, title text, unit int, place int, area text,
      "from" int, from_version int, adapted boolean, away timestamptz, replaced timestamptz, "for" int, delivery text,
      "group" text, source int, source_version int, assignment int, student int, guarded boolean, version int,
      seen_from int, done_mask text, words int, level jsonb, written timestamptz, with_teacher boolean, made timestamptz)
    order by r.n`.execute(tx);
  const each = <T>(of: (page: ArchivedClass['pages'][number]) => readonly T[]) =>
    pages.flatMap((page) => of(page).map((value) => ({ page: page.n, value })));
  await sql`insert into page_member (page_id, person_id, school_id)
    select ${idOf('page', 'r.page')}, ${idOf('person', 'r.value')}, ${school}
    from jsonb_to_recordset(${rows(each(({ members }) => members))}::jsonb) as r(page int, value int)`.execute(
    tx,
  );
  await sql`insert into picture_place (hash, page_id, school_id)
    select value, ${idOf('page', 'r.page')}, ${school}
    from jsonb_to_recordset(${rows(each(({ pictures }) => pictures))}::jsonb) as r(page int, value text)`.execute(
    tx,
  );
  await sql`insert into answer_key (page_id, part_id, school_id, body)
    select ${idOf('page', 'r.page')}, value ->> 'part', ${school}, value -> 'body'
    from jsonb_to_recordset(${rows(each(({ keys }) => keys))}::jsonb) as r(page int, value jsonb)`.execute(
    tx,
  );
}

/** What was asked for, as it is kept with an assignment. */
function specOf(
  one: ArchivedClass['assignments'][number],
  klass: string,
  ids: Record<string, Map<number, string>>,
  zone: string,
): HandOutSpec {
  const known = (name: string, numbers: readonly number[]) =>
    numbers.flatMap((n) => ids[name]?.get(n) ?? []);
  const maybe = (name: string, n: number | null) =>
    n === null ? null : (ids[name]?.get(n) ?? null);
  const { only, without, grouping, adapted } = one.meant;
  return HandOutSpec.parse({
    title: one.title.trim() || 'Untitled',
    instructions: one.instructions,
    form: one.form,
    originals:
      one.form === 'pages'
        ? one.originals.flatMap(({ page, delivery, instead_of }) =>
            instead_of === null ? known('page', [page]).map((id) => ({ page: id, delivery })) : [],
          )
        : [],
    classes: [
      { class: klass, unit: maybe('unit', one.unit), grouping: maybe('grouping', grouping) },
    ],
    due:
      one.due === null
        ? { kind: 'none' }
        : { kind: 'at', local: writeLocalTime(Date.parse(one.due), zone) },
    only: only && known('person', only),
    without: known('person', without),
    adapted: adapted.map(({ page, instead, students }) => ({
      page: known('page', [page])[0],
      instead: known('page', [instead])[0],
      students: known('person', students),
    })),
    points: one.points,
    rubric: maybe('rubric', one.rubric),
    category: one.category,
    guarded: one.guarded,
    reminder: one.reminder,
    late: one.late,
  });
}

async function insertAssignments(
  tx: Tx,
  assignments: ArchivedClass['assignments'],
  { school, class: klass }: Here,
  ids: Record<string, Map<number, string>>,
  opening: Opening,
) {
  const { time_zone: zone } = await tx
    .selectFrom('school')
    .select('time_zone')
    .where('id', '=', opening.school)
    .executeTakeFirstOrThrow();
  const all = assignments.map((one) => ({ ...one, spec: specOf(one, klass, ids, zone) }));
  await sql`insert into assignment (id, school_id, title, instructions, points, guarded, made_by, made_at, spec, category,
      rubric_id, form, late, reminder)
    select ${idOf('assignment', 'r.n')}, ${school}, title, instructions, points::numeric, guarded,
      ${idOf('person', 'r.by')}, at, spec, category, ${idOf('rubric', 'r.rubric')}, form, late, reminder
    from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, title text, instructions text, points text, guarded boolean,
      by int, at timestamptz, spec jsonb, category text, rubric int, form text, late text, reminder int)`.execute(
    tx,
  );
  await sql`insert into assignment_class (assignment_id, school_id, class_id, unit_id, handed_out_at, due_at, withdrawn_at,
      changed_at, counting)
    select ${idOf('assignment', 'r.n')}, ${school}, ${klass}, ${idOf('unit', 'r.unit')}, handed_out, due, withdrawn,
      changed, counting
    from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, unit int, handed_out timestamptz, due timestamptz,
      withdrawn timestamptz, changed timestamptz, counting text)`.execute(tx);
  const each = <T extends object>(of: (one: (typeof all)[number]) => readonly T[]) =>
    rows(all.flatMap((one) => of(one).map((value) => ({ n: one.n, ...value }))));
  await sql`insert into assignment_original (assignment_id, school_id, page_id, version, delivery, instead_of)
    select ${idOf('assignment', 'r.n')}, ${school}, ${idOf('page', 'r.page')}, version, delivery,
      ${idOf('page', 'r.instead_of')}
    from jsonb_to_recordset(${each(({ originals }) => originals)}::jsonb)
      as r(n int, page int, version int, delivery text, instead_of int)`.execute(tx);
  const allowances = all.flatMap(({ n, allowances: theirs }) =>
    theirs.map((one) => ({ n, ...one })),
  );
  await sql`insert into allowance (school_id, assignment_id, person_id, kind, due_at, note, made_by, at)
    select ${school}, ${idOf('assignment', 'r.n')}, ${idOf('person', 'r.person')}, kind, due, note,
      ${idOf('person', 'r.by')}, at
    from jsonb_to_recordset(${rows(allowances.map((one, place) => ({ ...one, place })))}::jsonb)
      as r(n int, person int, kind text, due timestamptz, note text, by int, at timestamptz, place int)
    order by place`.execute(tx);
}

const insertNotes = (tx: Tx, notes: ArchivedClass['klass']['notes'], { school, course }: Here) =>
  sql`insert into note (school_id, course_id, unit_id, page_id, rubric_id, text, made_by, made_at, settled_at)
    select ${school}, case when num_nonnulls(unit, page, rubric) = 0 then ${course}::uuid end,
      ${idOf('unit', 'r.unit')}, ${idOf('page', 'r.page')}, ${idOf('rubric', 'r.rubric')}, text,
      ${idOf('person', 'r.by')}, at, settled
    from jsonb_to_recordset(${rows(notes)}::jsonb) as r(by int, at timestamptz, text text, settled timestamptz,
      unit int, page int, rubric int)`.execute(tx);

/** All that was written, given and said, in the order of its files. */
async function insertWritten(
  tx: Tx,
  bag: BagReader,
  school: number,
  progress: (steps: number) => Promise<void>,
) {
  await each(bag, 'snapshots.ndjson', (batch) =>
    sql`insert into snapshot (page_id, version, school_id, at, doc, authorship, parts)
      select ${idOf('page', 'r.page')}, version, ${school}, at, doc,
        coalesce((select jsonb_agg(jsonb_set(run, '{author}', to_jsonb(author.id::text)) order by place)
          from jsonb_array_elements(authorship) with ordinality runs(run, place)
          join archived_person author on author.n = (run ->> 'author')::int), '[]'),
        parts
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, version int, at timestamptz, doc jsonb, authorship jsonb, parts jsonb)`.execute(
      tx,
    ),
  );
  let done = 0;
  await each(bag, 'steps.ndjson', async (batch) => {
    await sql`insert into step (page_id, version, school_id, author_id, at, client, client_no, body)
      select ${idOf('page', 'r.page')}, version, ${school}, ${idOf('person', 'r.by')}, at, client, no, body
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, version int, by int, at timestamptz, client text, no int, body jsonb)`.execute(
      tx,
    );
    await progress((done += batch.length));
  });
  await each(bag, 'set-aside.ndjson', async (batch) => {
    await sql`insert into set_aside (page_id, client, client_no, school_id, author_id, at, base_version, body, words)
      select ${idOf('page', 'r.page')}, client, no, ${school}, ${idOf('person', 'r.by')}, at, base, body, words
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, client text, no int, by int, at timestamptz, base int, body jsonb, words text)`.execute(
      tx,
    );
    await sql`insert into set_aside_settled (page_id, client, client_no, school_id, at)
      select ${idOf('page', 'r.page')}, client, no, ${school}, settled
      from jsonb_to_recordset(${rows(batch)}::jsonb) as r(page int, client text, no int, settled timestamptz)
      where settled is not null`.execute(tx);
  });
  await each(bag, 'scorings.ndjson', async (batch) => {
    await sql`insert into archived_score (n, id) select n, nextval(pg_get_serial_sequence('score', 'id'))
      from unnest(${batch.map(({ n }) => n)}::int[]) of(n) order by n`.execute(tx);
    const ids = await readIds(tx);
    const all = batch.map((one) => ({ ...one, scoring: scoringOf(one.scoring, ids.rubric) }));
    await sql`insert into score (id, school_id, page_id, person_id, at, points, scoring, rubric_points, rubric_most, version)
      overriding system value
      select (select id from archived_score numbered where numbered.n = r.n), ${school}, ${idOf('page', 'r.page')},
        ${idOf('person', 'r.by')}, at, points::numeric, nullif(scoring, 'null'), rubric_points::numeric,
        rubric_most::numeric, version
      from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, page int, by int, at timestamptz, points text,
        scoring jsonb, rubric_points text, rubric_most text, version int)`.execute(tx);
  });
  await each(bag, 'events.ndjson', (batch) =>
    sql`insert into event (school_id, page_id, person_id, at, kind, version, of_version, score_id, note)
      select ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, kind, version, of_version,
        ${idOf('score', 'r.scoring')}, note
      from jsonb_to_recordset(${rows(batch.map((one, place) => ({ ...one, place })))}::jsonb) as r(page int, by int,
        at timestamptz, kind text, version int, of_version int, scoring int, note text, place int)
      order by place`.execute(tx),
  );
  const newThread = ascendingIds();
  await each(bag, 'threads.ndjson', async (batch) => {
    await insertNumbers(
      tx,
      'thread',
      batch.map(({ n }) => ({ n, id: newThread(n) })),
    );
    await sql`insert into thread (id, school_id, page_id, made_by, made_at, quote, made_version, made_from, made_to,
        at_from, at_to)
      select ${idOf('thread', 'r.n')}, ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, quote,
        made_version, made_from, made_to, at_from, at_to
      from jsonb_to_recordset(${rows(batch)}::jsonb) as r(n int, page int, by int, at timestamptz, quote text,
        made_version int, made_from int, made_to int, at_from int, at_to int)`.execute(tx);
    const said = batch.flatMap(({ n, comments }) => comments.map((one) => ({ n, ...one })));
    await sql`insert into comment (school_id, thread_id, person_id, at, kind, text)
      select ${school}, ${idOf('thread', 'r.n')}, ${idOf('person', 'r.by')}, at, kind, text
      from jsonb_to_recordset(${rows(said.map((one, place) => ({ ...one, place })))}::jsonb)
        as r(n int, by int, at timestamptz, kind text, text text, place int) order by place`.execute(
      tx,
    );
  });
  await sql`update page set threads = (select count(*) from thread where thread.page_id = page.id)
    where id in (select id from archived_page)`.execute(tx);
}

/** A scoring, with the rubric's id in this school. @throws Refusal when it is none */
function scoringOf(scoring: unknown, rubrics: ReadonlyMap<number, string> | undefined): unknown {
  if (scoring === null || scoring === undefined) return null;
  const nowhere = '00000000-0000-4000-8000-000000000000';
  if (typeof scoring !== 'object' || !('rubric' in scoring))
    throw broken('scorings.ndjson', 'a scoring is none.');
  const { rubric } = scoring;
  const number = typeof rubric === 'object' && rubric && 'id' in rubric ? Number(rubric.id) : 0;
  const read = Scoring.safeParse({
    ...scoring,
    rubric: { ...(rubric as object), id: rubrics?.get(number) ?? nowhere },
  });
  if (!read.success) throw broken('scorings.ndjson', 'a scoring is none.');
  return read.data;
}

/** The things of a file, some at once, each of its shape. */
async function each<F extends RecordFile>(
  bag: BagReader,
  file: F,
  take: (batch: Thing<F>[]) => Promise<unknown>,
): Promise<void> {
  let batch: Thing<F>[] = [];
  for await (const one of readLines(bag, file)) {
    if (batch.push(one) < AT_ONCE) continue;
    await take(batch);
    batch = [];
  }
  if (batch.length > 0) await take(batch);
}
