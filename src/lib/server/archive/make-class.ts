import { sql } from 'kysely';
import { Brought } from '$core/archive/record';
import type { Tx } from '../db/transaction';
import { namePicture } from '../file/picture-name';
import { ascendingIds } from './ascending-ids';
import type { BagReader } from './bag-reader';
import { insertAttached } from './insert-attached';
import { insertAssignments } from './insert-assignments';
import { idOf, insertNumbers, rows, type Here, type Opening } from './insert-rows';
import { insertWritten } from './insert-written';
import { analyzeNumbers, makeNumberTables, NUMBERED } from './numbers';
import { placePeople } from './place-people';
import { brokenRecord, type ArchivedClass } from './read-record';

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
    proposal: [],
    attachment: [],
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
    throw brokenRecord('calendar.json', 'the term ends before it begins.');
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
      grade_rules: klass.grade_rules && JSON.stringify(klass.grade_rules),
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
  await insertAssignments(tx, assignments, here);
  await insertPages(
    tx,
    pages.filter((page) => page.kind === 'copy'),
    here,
  );
  await insertDealt(tx, pages, school);
  await insertExamples(tx, rubrics, school);
  await insertAttached(tx, bag, school);
  await insertNotes(tx, klass.notes, here);
  const { rows: made } = await sql<{ id: string }>`select id from archived_page order by n`.execute(
    tx,
  );
  const total = pages.reduce((sum, { version }) => sum + version, 0);
  await insertWritten(tx, bag, school, (done) => progress(Math.min(done, total), total));
  return { class: id, pages: made.map((page) => page.id) };
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
    if (name !== hash) throw brokenRecord(`files/${hash}`, 'there is another picture.');
    await tx
      .insertInto('file')
      .values({ hash, school_id: school, type, bytes, made_by: by })
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  }
}

const insertExamples = (tx: Tx, rubrics: ArchivedClass['rubrics'], school: number) => {
  const examples = rubrics.flatMap((rubric) =>
    rubric.examples.map((one) => ({ rubric: rubric.n, ...one })),
  );
  return sql`insert into example (school_id, rubric_id, criterion, points, page_id, version, made_by, made_at, away_at)
    select ${school}, ${idOf('rubric', 'r.rubric')}, criterion, points, ${idOf('page', 'r.page')}, version,
      ${idOf('person', 'r.by')}, at, away
    from jsonb_to_recordset(${rows(examples)}::jsonb) as r(rubric int, criterion text, points text, page int, version int,
      by int, at timestamptz, away timestamptz)`.execute(tx);
};

/** Things of pages, each with the number of its page. */
const eachWith = <T>(
  pages: ArchivedClass['pages'],
  of: (page: ArchivedClass['pages'][number]) => readonly T[],
) => rows(pages.flatMap((page) => of(page).map((value) => ({ page: page.n, value }))));

/** Who was to mark copies, and to score them. */
async function insertDealt(tx: Tx, pages: ArchivedClass['pages'], school: number) {
  await sql`insert into marker (page_id, person_id, school_id)
    select ${idOf('page', 'r.page')}, ${idOf('person', 'r.value')}, ${school}
    from jsonb_to_recordset(${eachWith(pages, ({ markers }) => markers)}::jsonb) as r(page int, value int)`.execute(
    tx,
  );
  await sql`insert into reading (page_id, by_page_id, school_id, version)
    select ${idOf('page', 'r.page')}, ${idOf('page', "(r.value ->> 'page')::int")}, ${school}, (r.value ->> 'version')::int
    from jsonb_to_recordset(${eachWith(pages, ({ readers }) => readers)}::jsonb) as r(page int, value jsonb)`.execute(
    tx,
  );
  await sql`insert into withheld_scoring (page_id, by_page_id, school_id)
    select ${idOf('page', 'r.page')}, ${idOf('page', 'r.value')}, ${school}
    from jsonb_to_recordset(${eachWith(pages, ({ withheld }) => withheld)}::jsonb) as r(page int, value int)`.execute(
    tx,
  );
}

async function insertPages(tx: Tx, pages: ArchivedClass['pages'], here: Here) {
  const { school, class: klass, course } = here;
  const isOurs = sql.raw(`kind in ('copy', 'class page', 'own page')`);
  await sql`insert into page (id, school_id, kind, title, course_id, class_id, unit_id, place, area, from_id, from_version,
      adapted, away_at, replaced_at, folio, for_id, delivery, group_name, source_id, source_version, assignment_id, student_id,
      guarded, version, seen_from, done_mask, words, level, written_at, with_teacher, made_at, sealed)
    select ${idOf('page', 'r.n')}, ${school}, kind, title, case when not ${isOurs} then ${course}::uuid end,
      case when ${isOurs} then ${klass}::uuid end, ${idOf('unit', 'r.unit')}, place, area, ${idOf('page', 'r."from"')},
      from_version, adapted, away, replaced, folio, ${idOf('page', 'r."for"')}, delivery, "group", ${idOf('page', 'r.source')},
      source_version, ${idOf('assignment', 'r.assignment')}, ${idOf('person', 'r.student')}, guarded, version, seen_from,
      done_mask, words, nullif(level, 'null'), written, with_teacher, made, true
    from jsonb_to_recordset(${rows(pages)}::jsonb) as r(n int, kind text, title text, unit int, place int, area text,
      "from" int, from_version int, adapted boolean, away timestamptz, replaced timestamptz, folio text, "for" int, delivery text,
      "group" text, source int, source_version int, assignment int, student int, guarded boolean, version int,
      seen_from int, done_mask text, words int, level jsonb, written timestamptz, with_teacher boolean, made timestamptz)
    order by r.n`.execute(tx);
  await sql`insert into page_member (page_id, person_id, school_id)
    select ${idOf('page', 'r.page')}, ${idOf('person', 'r.value')}, ${school}
    from jsonb_to_recordset(${eachWith(pages, ({ members }) => members)}::jsonb) as r(page int, value int)`.execute(
    tx,
  );
  await sql`insert into picture_place (hash, page_id, school_id)
    select value, ${idOf('page', 'r.page')}, ${school}
    from jsonb_to_recordset(${eachWith(pages, ({ pictures }) => pictures)}::jsonb) as r(page int, value text)`.execute(
    tx,
  );
  await sql`insert into answer_key (page_id, part_id, school_id, body)
    select ${idOf('page', 'r.page')}, value ->> 'part', ${school}, value -> 'body'
    from jsonb_to_recordset(${eachWith(pages, ({ keys }) => keys)}::jsonb) as r(page int, value jsonb)`.execute(
    tx,
  );
}

const insertNotes = (tx: Tx, notes: ArchivedClass['klass']['notes'], { school, course }: Here) =>
  sql`insert into note (school_id, course_id, unit_id, page_id, rubric_id, text, made_by, made_at, settled_at)
    select ${school}, case when num_nonnulls(unit, page, rubric) = 0 then ${course}::uuid end,
      ${idOf('unit', 'r.unit')}, ${idOf('page', 'r.page')}, ${idOf('rubric', 'r.rubric')}, text,
      ${idOf('person', 'r.by')}, at, settled
    from jsonb_to_recordset(${rows(notes)}::jsonb) as r(by int, at timestamptz, text text, settled timestamptz,
      unit int, page int, rubric int)`.execute(tx);
