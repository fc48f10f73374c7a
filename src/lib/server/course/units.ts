import { sql } from 'kysely';
import type { Arrangement } from '$core/course/arrangement';
import type { Area } from '../db/schema';
import type { Connection } from '../page/page-store';
import type { Grant } from '../access/grant';
import { Refusal } from '../page/refusal';

/** Units, pages and rubrics are of a course or of a class. */
export type Holder = { course: string } | { class: string };

/** That somebody may change what stands in a course or in a class. */
export type Holding = Grant<'write the course'> | Grant<'manage the class'>;

export const holderOf = ({ line, thing }: Holding): Holder =>
  line === 'write the course' ? { course: thing.id } : { class: thing.id };

/** The column that says of which course or class something is, and its value. */
export const holderColumn = (holder: Holder) =>
  'course' in holder
    ? (['course_id', holder.course] as const)
    : (['class_id', holder.class] as const);

/** A page of a course or class as its list shows it. */
export interface ListedPage {
  id: string;
  title: string;
  kind: 'original' | 'reading' | 'class page';
  unit: string | null;
  area: Area | null;
  /** The page that it adapts. */
  adapts: string | null;
  /** The page that it was copied or carried over from. */
  from: string | null;
  /** Whether what it adapts has changed since. */
  behind: boolean;
  parts: number;
  handedOut: number;
}

/** The unit of a course that a unit came from, through however many classes; null for none. */
const OF_COURSE = sql<string | null>`(
  with recursive origin(id) as (
    select unit.from_id union select source.from_id from origin join unit source on source.id = origin.id)
  select source.id from origin join unit source on source.id = origin.id
  where source.course_id is not null limit 1)`;

const unitsOf = (db: Connection, holder: Holder) =>
  db
    .selectFrom('unit')
    .select(['id', 'title'])
    .select((eb) => eb('stored_at', 'is not', null).$castTo<boolean>().as('stored'))
    .where(...whereHeld(holder))
    .where('away_at', 'is', null)
    .orderBy('place')
    .orderBy('title');

/** The units of a course or class, in order. */
export const readUnits = (db: Connection, holder: Holder) => unitsOf(db, holder).execute();

/** The same, each with the unit of a course that it came from. */
export const readUnitsOfCourse = (db: Connection, holder: Holder) =>
  unitsOf(db, holder).select(OF_COURSE.as('from')).execute();

function whereHeld(holder: Holder) {
  const [name, id] = holderColumn(holder);
  return [name, '=', id] as const;
}

/** Whether a page is none of the empty ones that what is done or not begins from. `page`: a column with its id. */
export const isNoBlank = (page: string) => sql<boolean>`not exists (
  select from assignment_original used join assignment task on task.id = used.assignment_id
  where used.page_id = ${sql.ref(page)} and task.form = 'done or not')`;

/**
 * The pages of a course or class that are no copies, in order. `away`: those that were taken away, but not the empty
 * pages of what is done or not, which nobody took away.
 */
export async function readListedPages(
  db: Connection,
  holder: Holder,
  away = false,
): Promise<ListedPage[]> {
  const [name, id] = holderColumn(holder);
  const { rows } = await sql<ListedPage>`
    select page.id, page.title, page.kind, page.unit_id as unit, page.area,
      case when page.adapted then page.from_id end as adapts, page.from_id as "from",
      page.adapted and page.from_version < (select version from page base where base.id = page.from_id) as behind,
      coalesce(length(page.done_mask), (
        select jsonb_array_length(parts) from snapshot
        where snapshot.page_id = page.id order by version desc limit 1), 0) as parts,
      (select count(*)::int from assignment_original where assignment_original.page_id = page.id) as "handedOut"
    from page
    where ${sql.ref(`page.${name}`)} = ${id} and page.kind not in ('copy', 'own page')
      and page.away_at is ${away ? sql`not null` : sql`null`}
      and ${isNoBlank('page.id')}
    order by page.place, page.made_at`.execute(db);
  return rows;
}

/** New unit behind the others. @returns its id */
export async function addUnit(db: Connection, grant: Holding, title: string): Promise<string> {
  const [name, id] = holderColumn(holderOf(grant));
  const { school_id } = grant.thing;
  const row = await db
    .insertInto('unit')
    .values((eb) => ({
      school_id,
      title,
      [name]: id,
      place: eb
        .selectFrom('unit')
        .select((last) =>
          last.fn.coalesce(last.fn.max(last('place', '+', 1)), last.val(0)).as('next'),
        )
        .where(name, '=', id),
    }))
    .returning('id')
    .executeTakeFirstOrThrow();
  return row.id;
}

export const renameUnit = (db: Connection, grant: Holding, unit: string, title: string) =>
  db
    .updateTable('unit')
    .set({ title })
    .where('id', '=', unit)
    .where(...whereHeld(holderOf(grant)))
    .execute();

/** A unit that something is to stand in, or none. @throws Refusal when it is not one of the course or class */
export async function checkUnit(
  db: Connection,
  holder: Holder,
  unit: string | null,
): Promise<void> {
  if (unit && !(await readUnits(db, holder)).some(({ id }) => id === unit))
    throw new Refusal(404, 'This unit is not here any more.');
}

/** Takes a unit away; what stood in it stays, in no unit. @throws Refusal when work was handed out in it */
export async function dropUnit(db: Connection, grant: Holding, unit: string): Promise<void> {
  const used = await db
    .selectFrom('assignment_class')
    .select('assignment_id')
    .where('unit_id', '=', unit)
    .limit(1)
    .executeTakeFirst();
  if (used)
    throw new Refusal(409, 'Work was handed out in this unit, so it stays. You can rename it.');
  const gone = await db
    .updateTable('unit')
    .set({
      away_at: new Date(),
      held: sql<string[]>`array(select id from page where unit_id = ${unit}
        union all select id from rubric where unit_id = ${unit})`,
    })
    .where('id', '=', unit)
    .where('away_at', 'is', null)
    .where(...whereHeld(holderOf(grant)))
    .returning('id')
    .execute();
  if (gone.length === 0) return;
  await db.updateTable('page').set({ unit_id: null }).where('unit_id', '=', unit).execute();
  await db.updateTable('rubric').set({ unit_id: null }).where('unit_id', '=', unit).execute();
}

/** A unit that was taken away is back, with its notes, and with what stood in it and stands in no other since. */
export async function bringUnitBack(db: Connection, grant: Holding, unit: string): Promise<void> {
  const back = await db
    .updateTable('unit')
    .set({ away_at: null })
    .where('id', '=', unit)
    .where('away_at', 'is not', null)
    .where(...whereHeld(holderOf(grant)))
    .returning('held')
    .executeTakeFirst();
  if (!back) return;
  for (const table of ['page', 'rubric'] as const)
    await db
      .updateTable(table)
      .set({ unit_id: unit })
      .where('id', '=', sql<string>`any(${back.held}::uuid[])`)
      .where('unit_id', 'is', null)
      .execute();
}

/** The units of a course or class that were taken away. */
export const readAwayUnits = (db: Connection, holder: Holder) =>
  db
    .selectFrom('unit')
    .select(['id', 'title'])
    .where(...whereHeld(holder))
    .where('away_at', 'is not', null)
    .orderBy('title')
    .execute();

/** Puts units, pages and rubrics in order. What the arrangement does not name stays as it is. */
export async function arrange(
  db: Connection,
  grant: Holding,
  { units }: Arrangement,
): Promise<void> {
  const holder = holderOf(grant);
  const [name, id] = holderColumn(holder);
  const order = units.flatMap((unit, place) => (unit.id ? [{ id: unit.id, place }] : []));
  const things = units.flatMap((unit) =>
    unit.things.map((thing, place) => ({ id: thing, unit: unit.id, place })),
  );
  await sql`update unit set place = r.place
    from jsonb_to_recordset(${JSON.stringify(order)}::jsonb) as r(id uuid, place int)
    where unit.id = r.id and ${sql.ref(`unit.${name}`)} = ${id}`.execute(db);
  for (const table of 'course' in holder ? ['page', 'rubric'] : ['page'])
    await sql`update ${sql.table(table)} as thing set unit_id = r.unit, place = r.place
      from jsonb_to_recordset(${JSON.stringify(things)}::jsonb) as r(id uuid, unit uuid, place int)
      where thing.id = r.id and thing.${sql.ref(name)} = ${id}
        and (r.unit is null or exists (
          select 1 from unit where unit.id = r.unit and ${sql.ref(`unit.${name}`)} = ${id}))`.execute(
      db,
    );
}

/** Takes a page away from its course or class, or brings it back. Nothing of it is lost. */
export const putAway = (db: Connection, grant: Holding, page: string, away: boolean) =>
  db
    .updateTable('page')
    .set({ away_at: away ? new Date() : null })
    .where('id', '=', page)
    .where('kind', 'in', ['original', 'reading', 'class page'])
    .where(...whereHeld(holderOf(grant)))
    .execute();

/** Makes an original a reading, or a reading an original. */
export const setKind = (
  db: Connection,
  { thing }: Grant<'write the course'>,
  page: string,
  kind: 'original' | 'reading',
) =>
  db
    .updateTable('page')
    .set({ kind })
    .where('id', '=', page)
    .where('course_id', '=', thing.id)
    .where('adapted', '=', false)
    .execute();
