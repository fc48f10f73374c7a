import { sql } from 'kysely';
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

const openNotes = (db: Connection, viewer: string) =>
  db
    .selectFrom('note')
    .innerJoin('person', 'person.id', 'note.made_by')
    .select((eb) => [
      'note.id',
      'note.text',
      'note.made_at',
      'person.given',
      'person.called',
      eb.fn
        .coalesce('note.page_id', 'note.unit_id', 'note.rubric_id', 'note.course_id')
        .as('about'),
    ])
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
      ]),
    )
    .orderBy('note.made_at');

type Row = Awaited<ReturnType<ReturnType<typeof openNotes>['execute']>>[number];
const asNote = ({ id, text, made_at, given, called, about }: Row): Note => ({
  id,
  text,
  about: about ?? '',
  by: called || given,
  at: made_at.getTime(),
});

/**
 * The open notes on a course or class and on what stands in it: on things carried over, those of where they came from. What
 * stands in a course is noted for those who write it now, wherever it was carried.
 */
export async function readNotes(db: Connection, holder: Holder, viewer: string): Promise<Note[]> {
  const [name, id] = holderColumn(holder);
  const rows = await openNotes(db, viewer)
    .where((eb) =>
      eb.or([
        ...('course' in holder ? [eb('note.course_id', '=', id)] : []),
        eb(
          'note.unit_id',
          'in',
          eb
            .selectFrom('unit')
            .select((unit) => unit.fn.coalesce('from_id', 'id').as('id'))
            .where(name, '=', id)
            .union(eb.selectFrom('unit').select('id').where(name, '=', id)),
        ),
        eb(
          'note.page_id',
          'in',
          eb
            .selectFrom('page')
            .select((page) => page.fn.coalesce('from_id', 'id').as('id'))
            .where(name, '=', id)
            .where('kind', '<>', 'copy')
            .union(
              eb.selectFrom('page').select('id').where(name, '=', id).where('kind', '<>', 'copy'),
            ),
        ),
        ...('course' in holder
          ? [
              eb(
                'note.rubric_id',
                'in',
                eb.selectFrom('rubric').select('id').where('course_id', '=', id),
              ),
            ]
          : []),
      ]),
    )
    .execute();
  return rows.map(asNote);
}

/** The open notes on one page, and on the page it came from, as far as they are for this viewer. */
export async function readPageNotes(db: Connection, page: string, viewer: string): Promise<Note[]> {
  const rows = await openNotes(db, viewer)
    .where((eb) =>
      eb.or([
        eb('note.page_id', '=', page),
        eb('note.page_id', '=', eb.selectFrom('page').select('from_id').where('id', '=', page)),
      ]),
    )
    .execute();
  return rows.map(asNote);
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

/** A note that is dealt with leaves the view, not the record. */
export async function settleNote(db: Connection, grant: Holding, note: string): Promise<void> {
  const notes = await readNotes(db, holderOf(grant), grant.person.id);
  if (notes.some(({ id }) => id === note))
    await db.updateTable('note').set({ settled_at: new Date() }).where('id', '=', note).execute();
}
