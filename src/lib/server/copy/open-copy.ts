import { Checked } from '$core/marking/check-copy';
import { Scoring } from '$core/marking/scoring';
import type { Using } from '../services';
import { readSetAside } from '../page/set-aside';
import type { CopyRow } from '$core/copy/copy-row';
import { readEarlierAttached } from '../attached/attached-rows';
import { readCopy } from './facts';
import { readMargin, viewerOf } from './threads';

/** A page with all that an open view of it needs. */
export async function openCopy(
  app: Using<'db' | 'pages'>,
  page: string,
  who: { id: string; role: string },
) {
  const [held, copy, margin, setAside, earlier] = await Promise.all([
    app.pages.open(page),
    readCopy(app.db, page, who.id),
    readMargin(app, page, viewerOf(who)),
    readSetAside(app.db, page, who.id),
    readEarlierAttached(app.db, page),
  ]);
  return {
    doc: held.doc.toJSON() as object,
    version: held.version,
    copy,
    margin,
    setAside,
    /** What was handed in with it earlier. */
    earlier,
  };
}

/** What the assignment of a copy says to whoever has it. */
export async function readAssignment(app: Using<'db'>, copy: CopyRow) {
  const row = await app.db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .innerJoin('class', 'class.id', 'assignment_class.class_id')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('person', 'person.id', 'assignment.made_by')
    .select([
      'assignment.id',
      'assignment.title',
      'assignment.instructions',
      'assignment.points',
      'assignment.guarded',
      'assignment.form',
      'assignment.late',
      'assignment.marking',
      'class.name as class',
      'class.id as class_id',
      'course.title as course',
      'person.called as from',
    ])
    .where('assignment.id', '=', copy.assignment)
    .where('assignment_class.class_id', '=', copy.class)
    .executeTakeFirstOrThrow();
  return { ...row, due: copy.facts.due };
}

export interface RecordEntry {
  /** Epoch milliseconds. */
  at: number;
  what: string;
  by: string;
  note: string;
  points: string | null;
  scoring: Scoring | null;
  checked: Checked | null;
}

/** What happened to a copy, in order: openings, handings and every score. */
export async function readRecord(app: Using<'db'>, page: string): Promise<RecordEntry[]> {
  const events = await app.db
    .selectFrom('event')
    .innerJoin('person', 'person.id', 'event.person_id')
    .select(['event.at', 'event.kind as what', 'event.note', 'person.given', 'person.called'])
    .where('page_id', '=', page)
    .where('kind', '<>', 'looked')
    .execute();
  const scores = await app.db
    .selectFrom('score')
    .innerJoin('person', 'person.id', 'score.person_id')
    .select([
      'score.at',
      'score.points',
      'score.scoring',
      'score.checked',
      'person.given',
      'person.called',
    ])
    .where('page_id', '=', page)
    .execute();
  return [
    ...events.map((row) => ({ ...row, points: null, scoring: null, checked: null })),
    ...scores.map((row) => ({
      ...row,
      what: row.checked
        ? 'checked by the answer keys'
        : row.points === null && row.scoring === null
          ? 'points removed'
          : 'scored',
      note: '',
    })),
  ]
    .map(({ at, what, given, called, note, points, scoring, checked }) => ({
      at: at.getTime(),
      what,
      by: called || given,
      note,
      points,
      scoring: scoring && Scoring.parse(scoring),
      checked: checked && Checked.parse(checked),
    }))
    .sort((a, b) => a.at - b.at);
}

/** A sitting of a copy's students. Instants in epoch milliseconds. */
export interface StudentSitting {
  from: number;
  to: number;
  /** How many steps were made in it. */
  steps: number;
}

/** When a copy's students worked on it. */
export async function readSittings(app: Using<'db'>, page: string): Promise<StudentSitting[]> {
  const rows = await app.db
    .selectFrom('sitting')
    .innerJoin('person', 'person.id', 'sitting.person_id')
    .select(['begun_at', 'ended_at', 'steps'])
    .where('page_id', '=', page)
    .where('person.role', '=', 'student')
    .orderBy('first')
    .execute();
  return rows.map(({ begun_at, ended_at, steps }) => ({
    from: begun_at.getTime(),
    to: ended_at.getTime(),
    steps,
  }));
}
