import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readStudents } from '../class/board';
import { readFirstGroups } from '../class/groups';
import { readCopyKeys } from '../course/answer-keys';
import { Refusal } from '../page/refusal';
import { readTimeZone } from '../school/time-zone';
import { readCopies, readCopy } from './facts';
import { readFromStudents } from './classmates';
import { readPace } from '../desk/pace';
import { readBackBefore } from './last-time';
import { readMarkers } from './markers';
import { lineOf, readMarkingPlace } from './marking-place';
import { readLastBack, readNewSince, readSeen } from './new-since';
import {
  openCopy,
  openPage,
  readAssignment,
  readAssignmentIn,
  readRecord,
  readSittings,
} from './open-copy';
import { asStudentSees, type CopyRow } from '$core/copy/copy-row';
import { isOfThisRound, isWithTeacher, stateOf } from '$core/copy/state';
import { pointsOf } from '$core/marking/kept-score';
import { viewOwnScoring } from './own-scoring';
import { readOtherHolders, readOwnFeedback } from './own-work';
import { readFeedbackWaits } from './feedback-waits';
import { areBothThere, readMarkedApart, type MarkedApart } from './scores-apart';
import { readRubricOf, readScoring, type GivenScoring } from './scorings';

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
    /** Where its students score it themselves. */
    ownScoring: await viewOwnScoring(app.db, grant),
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
  const { source_id: source, for_id, assignment_id } = thing;
  const isHere = thing.delivery !== 'to read' && thing.class_id === klass;
  if (!isHere || !source || !for_id || !assignment_id)
    throw new Refusal(404, 'There is no such copy in this class.');
  const { db } = app;
  const of = { class: klass, assignment: assignment_id };
  const reading = readMarkers(db, of);
  // Side by side: whoever marks waits for it, copy after copy.
  const [
    open,
    copies,
    students,
    place,
    pace,
    keys,
    record,
    rubric,
    sittings,
    seen,
    back,
    waits,
    timeZone,
    assigned,
    groups,
    markers,
  ] = await Promise.all([
    openPage(app, thing.id, person, reading),
    readCopies(db, of, person.id),
    readStudents(db, klass),
    readMarkingPlace(db, { person: person.id, assignment: assignment_id, klass }),
    readPace(db, person.id),
    readCopyKeys(db, { source, for: for_id }),
    readRecord(app, thing.id),
    readRubricOf(db, assignment_id),
    readSittings(app, thing.id),
    readSeen(db, thing.id, person.id),
    readLastBack(db, thing.id, person.id),
    readFeedbackWaits(db, assignment_id, klass),
    readTimeZone(db, thing.school_id),
    readAssignmentIn(app, of),
    readFirstGroups(db, klass),
    reading,
  ]);
  // One that was withdrawn is none of the line.
  const copy =
    copies.find(({ id }) => id === thing.id) ?? (await readCopy(db, thing.id, person.id));
  const { members, facts, score } = copy;
  // Of what came again, what its student did with the feedback is new; of other copies what one has not seen.
  const since = (isWithTeacher(stateOf(facts)) && back) || seen;
  const ofPage = copies.filter((one) => one.for === for_id);
  // Of one that is back: what it had the time before.
  const isBack = stateOf(facts) === 'handed back';
  const [scored, newSince, line, apart, before, fromStudents] = await Promise.all([
    readScoring(db, score),
    since && readNewSince(db, thing.id, open.version, since),
    lineOf(db, { students, groups, markers }, ofPage, person.id),
    readMarkedApart(db, [copy], markers),
    facts.handedBack === null ? null : readBackBefore(db, thing.id, isBack ? score : null),
    rubric && readFromStudents(db, thing.id),
  ]);
  const two = apart.get(thing.id) ?? null;
  return {
    page: thing.id,
    ...open,
    copy,
    assignment: { ...assigned, due: facts.due },
    timeZone,
    line,
    place,
    /** How long whoever marks needs for a copy, in milliseconds; null where too little is known. */
    pace,
    who: students
      .filter(({ id }) => members.includes(id))
      .map(({ id, given: first, family }) => ({ id, name: `${first} ${family}` })),
    keys,
    record,
    rubric,
    /** What its students scored it with themselves, and what classmates gave it. */
    own: fromStudents?.own ?? null,
    classmates: fromStudents?.classmates ?? [],
    ...(two
      ? asOneOfTwo(two, person, assigned.points)
      : { last: copy, given: asOfNow(scored, facts), apart: null }),
    /** What it came back with before. */
    before,
    sittings,
    newSince,
    /** Comments and proposals wait until the copy goes back. */
    feedbackWaits: waits,
    /** It is scored part by part: it marks itself, or its parts have points of their own. */
    byParts:
      assigned.marking !== 'by hand' ||
      Object.values(keys).some(({ points }) => points !== undefined),
    mayMark: grant.may('mark'),
    mayWrite: grant.may('write the page'),
    mayChange: grant.may('run the assignment'),
    now: Date.now(),
  };
}

/** What was given to the parts of a copy that came again was given to other answers. */
const asOfNow = (given: GivenScoring | null, facts: CopyRow['facts']): GivenScoring | null =>
  given && !isOfThisRound(given.at, facts) ? { ...given, checked: null } : given;

/** What one of two who mark a copy sees of its scores: their own. */
function asOneOfTwo(apart: MarkedApart, person: { id: string }, most: string | null) {
  const own = apart.scores.find((one) => one?.person === person.id) ?? null;
  const by = apart.markers.find(({ id }) => id === person.id)?.name ?? '';
  const given: GivenScoring | null = own && {
    scoring: own.scoring,
    checked: own.checked,
    by,
    at: own.at,
    why: null,
  };
  return {
    /** The last score that they see: its id, and what it comes to. */
    last: { score: own?.id ?? null, points: own && pointsOf(own, most) },
    given,
    apart: {
      by: apart.markers.map(({ name }) => name),
      isOne: by !== '',
      bothThere: areBothThere(apart),
    },
  };
}
