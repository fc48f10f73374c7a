import { sql } from 'kysely';
import { pagesOf } from '../copy/holders';
import { readNotes, readSettledNotes } from '../course/notes';
import { readAwayUnits, readListedPages, readUnits } from '../course/units';
import { readDrafts } from '../handout/drafts';
import type { Connection } from '../page/page-store';

/** An assignment as it stands in the plan. */
export interface PlannedAssignment {
  id: string;
  title: string;
  unit: string | null;
  /** Epoch milliseconds. */
  due: number | null;
  to: string;
}

/** The plan of a class as its staff see it. */
export async function readPlan(db: Connection, klass: string, viewer: string) {
  const [units, pages, away, notes, handed, drafts] = await Promise.all([
    readUnits(db, { class: klass }),
    readListedPages(db, { class: klass }),
    readListedPages(db, { class: klass }, true),
    readNotes(db, { class: klass }, viewer),
    handedOut(db, klass).execute(),
    readDrafts(db, [klass]),
  ]);
  const assignments = handed.map((row) => planned(row, `/classes/${klass}/assignments/${row.id}`));
  return {
    units,
    pages,
    away: [
      ...away.map(({ id, title }) => ({ id, title, kind: 'page' })),
      ...(await readAwayUnits(db, { class: klass })).map((unit) => ({ ...unit, kind: 'unit' })),
      ...(await readSettledNotes(db, { class: klass }, viewer)).map((note) => ({
        ...note,
        kind: 'note',
      })),
    ],
    notes,
    assignments,
    drafts: drafts.map(({ id, spec, goesOut }) => {
      const here = spec.classes.find((one) => one.class === klass);
      return {
        id,
        title: spec.title,
        unit: here?.unit ?? null,
        goesOut,
        due: here?.due ?? spec.due,
      };
    }),
  };
}

/** The plan as a student of the class sees it: the shelf, the worktable, and what was handed out to them. */
export async function readStudentPlan(db: Connection, klass: string, student: string) {
  const [units, pages, handed] = await Promise.all([
    readUnits(db, { class: klass }),
    readListedPages(db, { class: klass }),
    handedOut(db, klass)
      .innerJoin('page as copy', (join) =>
        join
          .onRef('copy.assignment_id', '=', 'assignment.id')
          .onRef('copy.class_id', '=', 'assignment_class.class_id'),
      )
      .select('copy.id as copy')
      .where('copy.away_at', 'is', null)
      .where('copy.replaced_at', 'is', null)
      .where('assignment_class.withdrawn_at', 'is', null)
      .where('copy.id', '=', sql<string>`any(${pagesOf(student)})`)
      .execute(),
  ]);
  const stored = new Set(units.flatMap((unit) => (unit.stored ? unit.id : [])));
  const isStored = (unit: string | null) => unit !== null && stored.has(unit);
  return {
    units: units.flatMap(({ id, title, stored }) => (stored ? [] : { id, title, stored })),
    pages: pages
      .filter(({ area, unit }) => (area === 'shelf' || area === 'worktable') && !isStored(unit))
      .map(({ id, title, unit, area }) => ({ id, title, unit, area })),
    assignments: handed
      .filter(({ unit_id }) => !isStored(unit_id))
      .map((row) => planned(row, `/work/${row.copy}`)),
  };
}

const handedOut = (db: Connection, klass: string) =>
  db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select([
      'assignment.id',
      'assignment.title',
      'assignment_class.unit_id',
      'assignment_class.due_at',
    ])
    .where('assignment_class.class_id', '=', klass)
    .orderBy('handed_out_at');

const planned = (
  row: { id: string; title: string; unit_id: string | null; due_at: Date | null },
  to: string,
): PlannedAssignment => ({
  id: row.id,
  title: row.title,
  unit: row.unit_id,
  to,
  due: row.due_at?.getTime() ?? null,
});

/** The welcome page of a class, if it has one. */
export const findWelcome = (db: Connection, klass: string) =>
  db
    .selectFrom('page')
    .select(['id', 'title'])
    .where('class_id', '=', klass)
    .where('area', '=', 'welcome')
    .where('away_at', 'is', null)
    .orderBy('made_at')
    .executeTakeFirst();

/** The staff of a class, its lead first. */
export const readStaff = (db: Connection, klass: string) =>
  db
    .selectFrom('class_staff')
    .innerJoin('person', 'person.id', 'class_staff.person_id')
    .select(['person.id', 'person.given', 'person.family', 'person.called', 'class_staff.kind'])
    .where('class_id', '=', klass)
    .orderBy((eb) => eb.case().when('class_staff.kind', '=', 'lead').then(0).else(1).end())
    .orderBy('person.family')
    .execute();
