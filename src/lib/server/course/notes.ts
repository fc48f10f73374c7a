import { sql, type RawBuilder } from 'kysely';
import { Refusal } from '../page/refusal';
import type { Connection } from '../page/page-store';
import { holderColumn, holderOf, type Holder, type Holding } from './units';

/** What a private note is about. */
export type NoteAbout = 'course' | 'unit' | 'page' | 'rubric';

export interface Note {
  id: string;
  about: string;
  text: string;
  by: string;
  /** Whether the viewer wrote it. */
  own: boolean;
  /** Epoch milliseconds. */
  at: number;
}

const COLUMNS = {
  course: 'course_id',
  unit: 'unit_id',
  page: 'page_id',
  rubric: 'rubric_id',
} as const;

/** The course whose writers a note is for; null for one on what a class alone has. */
const COURSE = sql<string | null>`coalesce(note.course_id,
  (select course_id from page where page.id = note.page_id), (select course_id from unit where unit.id = note.unit_id),
  (select course_id from rubric where rubric.id = note.rubric_id))`;

/** Something that notes are shown with, and what they may be about. */
interface Subject {
  thing: string;
  id: string;
}

const openNotes = (db: Connection, viewer: string, subjects: RawBuilder<Subject>) =>
  db
    .selectFrom(subjects.as('subject'))
    .innerJoin('note', (join) =>
      join.on((eb) =>
        eb(
          'subject.id',
          '=',
          eb.fn.coalesce('note.page_id', 'note.unit_id', 'note.rubric_id', 'note.course_id'),
        ),
      ),
    )
    .innerJoin('person', 'person.id', 'note.made_by')
    .select(['note.id', 'note.text', 'note.made_at', 'person.given', 'person.called'])
    .select('subject.thing as about')
    .select((eb) => eb('note.made_by', '=', viewer).$castTo<boolean>().as('own'))
    .where('settled_at', 'is', null)
    .where((eb) =>
      eb.or([
        eb(COURSE, 'is', null),
        eb(
          COURSE,
          'in',
          eb
            .selectFrom('course_staff')
            .select('course_id')
            .where('person_id', '=', viewer)
            .where('may', 'in', ['own', 'write']),
        ),
        // Nobody has a part in the course of an opened archive: its notes are for who leads the class.
        eb(
          COURSE,
          'in',
          eb
            .selectFrom('class')
            .innerJoin('class_staff', 'class_staff.class_id', 'class.id')
            .select('class.course_id')
            .where('person_id', '=', viewer)
            .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
            .where('class.brought', 'is not', null),
        ),
      ]),
    )
    .orderBy('note.made_at');

type Row = Awaited<ReturnType<ReturnType<typeof openNotes>['execute']>>[number];
const asNote = ({ id, text, made_at, given, called, about, own }: Row): Note => ({
  id,
  own,
  text,
  about,
  by: called || given,
  at: made_at.getTime(),
});

/** Things, each with itself and all that it was carried over from. */
const withOrigins = (
  table: 'unit' | 'page' | 'rubric',
  things: RawBuilder<unknown>,
) => sql<Subject>`(
  with recursive origin(thing, id) as (
    select id, id from ${sql.table(table)} where ${things}
    union select origin.thing, source.from_id from origin
      join ${sql.table(table)} source on source.id = origin.id where source.from_id is not null)
  select thing, id from origin)`;

/**
 * The open notes on a course or class and on what stands in it: on things carried over, those of where they came from, too, as
 * notes about what they are here. What stands in a course is noted for those who write it now, wherever it was carried.
 */
export async function readNotes(db: Connection, holder: Holder, viewer: string): Promise<Note[]> {
  const [name, id] = holderColumn(holder);
  const held = sql`${sql.ref(name)} = ${id}`;
  const about = sql<Subject>`(
    select ${id}::uuid as thing, ${id}::uuid as id
    union all select thing, id from ${withOrigins('unit', held)} unit
    union all select thing, id from ${withOrigins('page', sql`${held} and kind not in ('copy', 'own page')`)} page
    ${'course' in holder ? sql`union all select thing, id from ${withOrigins('rubric', held)} rubric` : sql``})`;
  return (await openNotes(db, viewer, about).execute()).map(asNote);
}

/** The open notes on pages, and on those that they came from, as far as they are for this viewer. */
export async function readPageNotes(
  db: Connection,
  pages: readonly string[],
  viewer: string,
): Promise<Note[]> {
  const about = withOrigins('page', sql`id = any(${pages}::uuid[])`);
  return (await openNotes(db, viewer, about).execute()).map(asNote);
}

/** @throws Refusal when what it is about is not in the course or class */
export async function writeNote(
  db: Connection,
  grant: Holding,
  note: { about: NoteAbout; id: string; text: string },
): Promise<void> {
  const { about } = note;
  const { thing, person, line } = grant;
  const [name, holds] = holderColumn(holderOf(grant));
  const known =
    about === 'course'
      ? holds === note.id && line === 'write the course'
      : await db
          .selectFrom(about)
          .select('id')
          .where('id', '=', note.id)
          .where(sql.ref(name), '=', holds)
          .executeTakeFirst();
  if (!known) throw new Refusal(404, 'What this note is about is not here any more.');
  await db
    .insertInto('note')
    .values({
      school_id: thing.school_id,
      text: note.text,
      made_by: person.id,
      [COLUMNS[about]]: note.id,
    })
    .execute();
}

/** The notes of somebody on a course or class that are dealt with. */
export async function readSettledNotes(db: Connection, holder: Holder, writer: string) {
  const [name, id] = holderColumn(holder);
  const held = (table: 'page' | 'unit' | 'rubric') =>
    db.selectFrom(table).select('id').where(sql.ref(name), '=', id);
  return db
    .selectFrom('note')
    .select(['id', 'text as title'])
    .where('made_by', '=', writer)
    .where('settled_at', 'is not', null)
    .where((eb) =>
      eb.or([
        eb('page_id', 'in', held('page')),
        eb('unit_id', 'in', held('unit')),
        ...('course' in holder
          ? [eb('rubric_id', 'in', held('rubric')), eb('course_id', '=', id)]
          : []),
      ]),
    )
    .orderBy('settled_at', 'desc')
    .execute();
}

/** A note of one's own that was dealt with stands open again. */
export async function openNote(db: Connection, grant: Holding, note: string): Promise<void> {
  const own = await readSettledNotes(db, holderOf(grant), grant.person.id);
  if (own.some(({ id }) => id === note))
    await db.updateTable('note').set({ settled_at: null }).where('id', '=', note).execute();
}

/** Other words for a note of one's own. */
export async function changeNote(
  db: Connection,
  grant: Holding,
  { note, text }: { note: string; text: string },
): Promise<void> {
  const notes = await readNotes(db, holderOf(grant), grant.person.id);
  if (!notes.some(({ id }) => id === note)) return;
  await db
    .updateTable('note')
    .set({ text })
    .where('id', '=', note)
    .where('made_by', '=', grant.person.id)
    .execute();
}

/** A note that is dealt with leaves the view, not the record. */
export async function settleNote(db: Connection, grant: Holding, note: string): Promise<void> {
  const notes = await readNotes(db, holderOf(grant), grant.person.id);
  if (notes.some(({ id }) => id === note))
    await db.updateTable('note').set({ settled_at: new Date() }).where('id', '=', note).execute();
}
