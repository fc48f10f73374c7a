import { Checked } from '$core/marking/check-copy';
import { Scoring } from '$core/marking/scoring';
import { givenIn } from '$core/marking/sum-parts';
import type { Using } from '../services';
import { readSetAside } from '../page/set-aside';
import type { CopyRow } from '$core/copy/copy-row';
import { readEarlierAttached } from '../attached/attached-rows';
import { readCopy } from './facts';
import type { Markers } from './scores-apart';
import { readMargin } from './threads';
import { viewerOf } from './viewer';

/** A page with all that an open view of it needs, but for how it stands. */
export async function openPage(
  app: Using<'db' | 'pages'>,
  page: string,
  who: { id: string; role: string },
  markers?: Markers,
) {
  const [held, margin, setAside, earlier] = await Promise.all([
    app.pages.open(page),
    readMargin(app, page, viewerOf(who), markers),
    readSetAside(app.db, page, who.id),
    readEarlierAttached(app.db, page),
  ]);
  return {
    doc: held.doc.toJSON() as object,
    version: held.version,
    margin,
    setAside,
    /** What was handed in with it earlier. */
    earlier,
  };
}

/** A copy with all that an open view of it needs. */
export async function openCopy(
  app: Using<'db' | 'pages'>,
  page: string,
  who: { id: string; role: string },
) {
  const [open, copy] = await Promise.all([
    openPage(app, page, who),
    readCopy(app.db, page, who.id),
  ]);
  return { ...open, copy };
}

/** What the assignment of a copy says to whoever has it. */
export const readAssignment = async (app: Using<'db'>, copy: CopyRow) => ({
  ...(await readAssignmentIn(app, copy)),
  due: copy.facts.due,
});

/** The same for all of a class: nobody's own due time. */
export const readAssignmentIn = (app: Using<'db'>, at: Pick<CopyRow, 'assignment' | 'class'>) =>
  app.db
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
    .where('assignment.id', '=', at.assignment)
    .where('assignment_class.class_id', '=', at.class)
    .executeTakeFirstOrThrow();

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

function whatScored({
  points,
  scoring,
  checked,
}: {
  points: string | null;
  scoring: object | null;
  checked: object | null;
}) {
  if (checked)
    return Object.keys(givenIn(Checked.parse(checked))).length > 0
      ? 'scored part by part'
      : 'checked by the answer keys';
  return points === null && scoring === null ? 'points removed' : 'scored';
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
      what: whatScored(row),
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
