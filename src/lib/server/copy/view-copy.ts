import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readStudents } from '../class/board';
import { readCopyKeys } from '../course/answer-keys';
import { Refusal } from '../page/refusal';
import { readTimeZone } from '../school/time-zone';
import { readCopies, readCopy } from './facts';
import { readNewSince, readSeen } from './new-since';
import { openCopy, readAssignment, readRecord, readSittings } from './open-copy';
import { asStudentSees, type CopyRow } from '$core/copy/copy-row';
import { readOtherHolders, readOwnFeedback } from './own-work';
import { readFeedbackWaits } from './feedback-waits';
import { readRubricOf, readScoring } from './scorings';

type Own = Grant<'see own copy'>;

/** A student's own copy, as they work on it. */
export async function viewOwnCopy(app: Using<'db' | 'pages'>, grant: Own) {
  const { thing, person } = grant;
  const { copy, ...open } = await openCopy(app, thing.id, person);
  return {
    page: thing.id,
    ...open,
    standing: await readStanding(app, grant, copy),
    timeZone: await readTimeZone(app.db, thing.school_id),
    now: Date.now(),
    me: `${person.given} ${person.family}`,
    feedback: await readOwnFeedback(app.db, grant),
  };
}

/** How a student's own copy stands, which changes while it is open: all but what is written on it. */
export const viewOwnStanding = async (app: Using<'db'>, grant: Own) =>
  readStanding(app, grant, await readCopy(app.db, grant.thing.id, grant.person.id));

async function readStanding(app: Using<'db'>, grant: Own, all: CopyRow) {
  const { thing, person } = grant;
  const copy = asStudentSees(all, person.id);
  return {
    copy,
    assignment: { ...(await readAssignment(app, copy)), title: thing.title },
    /** The others who have it. */
    shared: await readOtherHolders(app.db, thing.id, person.id),
    mayWork: grant.may('do own work'),
  };
}

/** A copy as it is marked, and the others of its class. @throws Refusal when it is none of that class to mark */
export async function viewMarking(
  app: Using<'db' | 'pages'>,
  grant: Grant<'see the marking'>,
  klass: string,
) {
  const { thing, person } = grant;
  const { source_id: source, for_id } = thing;
  if (thing.delivery === 'to read' || thing.class_id !== klass || !source || !for_id)
    throw new Refusal(404, 'There is no such copy in this class.');
  const open = await openCopy(app, thing.id, person);
  const assignment = await readAssignment(app, open.copy);
  const seen = await readSeen(app.db, thing.id, person.id);
  const students = await readStudents(app.db, klass);
  const copies = await readCopies(app.db, { class: klass, assignment: assignment.id }, person.id);
  const theirs = copies.filter((copy) => copy.for === for_id);
  const namesOf = ({ members }: { members: readonly string[] }) =>
    students.filter(({ id }) => members.includes(id));
  return {
    page: thing.id,
    ...open,
    assignment,
    timeZone: await readTimeZone(app.db, thing.school_id),
    // In the order of their students; a shared copy stands at its first.
    owners: students.flatMap((student) => {
      const copy = theirs.find(({ members }) => members.includes(student.id));
      if (!copy || namesOf(copy)[0]?.id !== student.id) return [];
      return [
        { copy, name: copy.student ? student.name : copy.group || `all of ${assignment.class}` },
      ];
    }),
    who: namesOf(open.copy).map(({ id, given, family }) => ({ id, name: `${given} ${family}` })),
    keys: await readCopyKeys(app.db, { source, for: for_id }),
    record: await readRecord(app, thing.id),
    rubric: await readRubricOf(app.db, assignment.id),
    given: await readScoring(app.db, open.copy.score),
    sittings: await readSittings(app, thing.id),
    newSince: seen && (await readNewSince(app.db, thing.id, open.version, seen)),
    /** Comments and proposals wait until the copy goes back. */
    feedbackWaits: await readFeedbackWaits(app.db, assignment.id, klass),
    marksItself: assignment.marking !== 'by hand',
    mayMark: grant.may('mark'),
    mayWrite: grant.may('write the page'),
    mayChange: grant.may('run the assignment'),
    now: Date.now(),
  };
}
