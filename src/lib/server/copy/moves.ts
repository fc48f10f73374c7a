import type { CopyRow } from '$core/copy/copy-row';
import type { EventKind } from '$core/copy/reduce';
import {
  factsFor,
  handInFault,
  handInKinds,
  isWithTeacher,
  stateOf,
  takeBackFault,
  takeBackKinds,
  type LateRule,
} from '$core/copy/state';
import type { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { keepLinks } from '../attached/look-at';
import type { Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import { writeSnapshots } from '../page/write-changes';
import type { Using } from '../services';
import { readCopy } from './facts';
import { markByKey } from './mark-by-key';
import { readSeen } from './new-since';
import { moveOf, recordMove, type MovedCopy } from './record-move';
import { tellOthers, tellStaff } from './tell-of-hand-in';

const rulesOf = (
  app: Using<'db'>,
  page: string,
): Promise<{ late: LateRule; marking: HandOutSpec['marking'] }> =>
  app.db
    .selectFrom('assignment')
    .innerJoin('page', 'page.assignment_id', 'assignment.id')
    .select(['late', 'marking'])
    .where('page.id', '=', page)
    .executeTakeFirstOrThrow();

const HAND_IN_FAULTS = {
  'is handed in': 'This copy is handed in already.',
  'comes too late': 'It was due, and is not taken any more. Ask your teacher for more time.',
};
const TAKE_BACK_FAULTS = {
  'is not handed in': 'There is nothing handed in to take back.',
  'marks itself':
    'It marked itself when you handed it in, so it cannot be taken back. Your teacher can hand it back.',
  'is being looked at': 'Your teacher is looking at this copy, so it cannot be taken back now.',
  'could not come again':
    'Its due time is over and nothing is taken after it, so what was handed in stays.',
};

/** @param note what the student says with it @throws Refusal when it cannot be handed in now */
export async function handIn(
  app: Using<'db' | 'news' | 'pages' | 'jobs'>,
  grant: Grant<'do own work'>,
  note: string,
): Promise<void> {
  const { page } = moveOf(grant);
  const held = await app.pages.open(page);
  const { late } = await rulesOf(app, page);
  await recordMove(
    app,
    { ...moveOf(grant), note },
    (copy) => {
      const fault = handInFault(factsFor(copy, grant.person.id), late, Date.now());
      if (fault) throw new Refusal(409, HAND_IN_FAULTS[fault]);
      return handInKinds(copy, grant.person.id);
    },
    async (tx, { school, copy, kinds }) => {
      if (!kinds.includes('handed in')) return null;
      await writeSnapshots(tx, new Date(), [{ id: page, school, held }]);
      await keepLinks(app.jobs, tx, school, page);
      await tellStaff(tx, school, copy);
      if (!copy.each) await tellOthers(tx, school, grant, copy);
      return null;
    },
    async (tx, recorded) =>
      recorded.kinds.includes('handed in') ? markByKey(tx, page, recorded) : recorded,
  );
}

/** One of the staff hands in what was attached and left at that. @throws Refusal when nothing waits there */
export async function handInFor(
  app: Using<'db' | 'news' | 'pages' | 'jobs'>,
  grant: Grant<'mark'>,
): Promise<void> {
  await moveFor(app, grant, ({ facts }) => {
    if (stateOf(facts) !== 'attached')
      throw new Refusal(409, 'There is nothing attached that waits to be handed in.');
    return ['handed in'];
  });
}

/**
 * One of the staff attaches something to a copy, and hands it in with that, if asked and nobody did.
 * @param attach with the copy locked
 */
export const collectFor = (
  app: Using<'db' | 'news' | 'pages' | 'jobs'>,
  grant: Grant<'mark'>,
  { handIn, attach }: { handIn: boolean; attach: (tx: Tx, at: MovedCopy) => Promise<void> },
): Promise<void> =>
  moveFor(
    app,
    grant,
    ({ facts }) => (handIn && !isWithTeacher(stateOf(facts)) ? ['handed in'] : []),
    attach,
  );

async function moveFor(
  app: Using<'db' | 'news' | 'pages' | 'jobs'>,
  grant: Grant<'mark'>,
  may: (copy: CopyRow) => EventKind[],
  first: (tx: Tx, at: MovedCopy) => Promise<void> = async () => undefined,
): Promise<void> {
  const { page } = moveOf(grant);
  const held = await app.pages.open(page);
  await recordMove(
    app,
    moveOf(grant),
    may,
    async (tx, at) => {
      await first(tx, at);
      if (!at.kinds.includes('handed in')) return null;
      await writeSnapshots(tx, new Date(), [{ id: page, school: at.school, held }]);
      await keepLinks(app.jobs, tx, at.school, page);
      return null;
    },
    async (tx, recorded) =>
      recorded.kinds.includes('handed in') ? markByKey(tx, page, recorded) : recorded,
  );
}

/** Undoes that one of the staff handed a copy in. @throws Refusal when its student did, or it is marked */
export async function takeBackFor(app: Using<'db' | 'news'>, grant: Grant<'mark'>): Promise<void> {
  const move = moveOf(grant);
  const last = await app.db
    .selectFrom('event')
    .select('person_id')
    .where('page_id', '=', move.page)
    .where('kind', '=', 'handed in')
    .orderBy('id', 'desc')
    .executeTakeFirst();
  await recordMove(app, move, ({ facts, members }) => {
    const isTheirs = last !== undefined && members.includes(last.person_id);
    if (stateOf(facts) !== 'handed in' || isTheirs)
      throw new Refusal(409, 'It is marked already, or its student handed it in.');
    return ['taken back'];
  });
}

export async function takeBack(
  app: Using<'db' | 'news'>,
  grant: Grant<'do own work'>,
): Promise<void> {
  const move = moveOf(grant);
  const { late, marking } = await rulesOf(app, move.page);
  await recordMove(app, move, (copy) => {
    const fault = takeBackFault(factsFor(copy, move.person), late, Date.now(), marking);
    if (fault) throw new Refusal(409, TAKE_BACK_FAULTS[fault]);
    return takeBackKinds(copy);
  });
}

/** The first time a student opens a copy that they have, alone or with others. */
export async function opened(
  app: Using<'db' | 'news'>,
  grant: Grant<'see own copy'>,
): Promise<void> {
  // In an archived class it is read, and nothing is recorded.
  if (grant.relation === 'past student') return;
  const move = moveOf(grant);
  const copy = await readCopy(app.db, move.page, move.person);
  if (!copy.openers.includes(move.person)) await recordMove(app, move, () => ['opened']);
}

/**
 * One of the staff looked inside; told only when there was something new.
 * @param handedIn when what they saw had been handed in: what was handed in later was not looked at yet
 * @param version what they saw; what was written after it is new to them
 */
export async function looked(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  handedIn: number | null,
  version: number,
): Promise<void> {
  const move = { ...moveOf(grant), version };
  const { facts } = await readCopy(app.db, move.page, move.person);
  const newest = Math.max(facts.written ?? 0, facts.handedIn ?? 0, facts.opened ?? 0);
  const seen = await readSeen(app.db, move.page, move.person);
  if (seen && seen.at >= newest && seen.version >= version) return;
  await recordMove(app, move, (copy) => {
    if (copy.facts.handedIn !== handedIn)
      throw new Refusal(409, 'This copy was handed in just now; please look again.');
    return ['looked'];
  });
}
