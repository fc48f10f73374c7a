import type { EventKind } from '$core/copy/reduce';
import {
  handBackFault,
  handInFault,
  isWithTeacher,
  stateOf,
  takeBackFault,
  type LateRule,
} from '$core/copy/state';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { notify } from '../message/messages';
import { studentsWhoHear } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { writeSnapshots } from '../page/write-changes';
import { Refusal } from '../page/refusal';
import { HOLDERS, SHARERS } from './holders';
import type { CopyRow } from '$core/copy/copy-row';
import { readCopy } from './facts';
import { inTransaction } from '../db/transaction';

/** Whose move it is, of which copy. */
interface Move {
  page: string;
  person: string;
  note?: string;
}
const moveOf = ({ thing, person }: Pick<Grant<'mark'>, 'thing' | 'person'>): Move => ({
  page: thing.id,
  person: person.id,
});

/** Records that something happened to a copy, with the copy locked, if `may` agrees with how it stands then. */
async function record(
  app: Using<'db' | 'news'>,
  kind: EventKind,
  { page, person, note = '' }: Move,
  may: (copy: CopyRow) => void,
  also: (tx: Connection, version: number, school: number) => Promise<void> = async () => undefined,
): Promise<void> {
  const done = await inTransaction(app.db, async (tx) => {
    const row = await tx
      .selectFrom('page')
      .select(['version', 'school_id', 'class_id', 'student_id'])
      .select(SHARERS.as('sharers'))
      .where('id', '=', page)
      .forUpdate()
      .executeTakeFirstOrThrow();
    may(await readCopy(tx, page, person));
    await also(tx, row.version, row.school_id);
    await tx
      .insertInto('event')
      .values({
        school_id: row.school_id,
        page_id: page,
        person_id: person,
        kind,
        version: row.version,
        note,
      })
      // Two tabs open a copy once.
      .onConflict((conflict) => conflict.doNothing())
      .execute();
    const copy = await readCopy(tx, page, person);
    await tx
      .updateTable('page')
      .set({ with_teacher: isWithTeacher(stateOf(copy.facts)) })
      .where('id', '=', page)
      .execute();
    return { ...row, copy, isSeen: await isSeen(tx, page) };
  });
  app.news.publish({
    news: { kind: 'copy', page, version: done.version, by: person, row: done.copy },
    ...(done.isSeen ? studentsWhoHear(done) : {}),
    places: done.class_id ? [done.class_id] : [],
  });
}

/** Whether a copy's students see it: it was not withdrawn, nor its assignment. */
const isSeen = async (tx: Connection, page: string): Promise<boolean> =>
  (await tx
    .selectFrom('page')
    .innerJoin('assignment_class as handed', (join) =>
      join
        .onRef('handed.assignment_id', '=', 'page.assignment_id')
        .onRef('handed.class_id', '=', 'page.class_id'),
    )
    .select('page.id')
    .where('page.id', '=', page)
    .where('page.away_at', 'is', null)
    .where('handed.withdrawn_at', 'is', null)
    .executeTakeFirst()) !== undefined;

const lateRuleOf = async (app: Using<'db'>, page: string): Promise<LateRule> =>
  (
    await app.db
      .selectFrom('assignment')
      .innerJoin('page', 'page.assignment_id', 'assignment.id')
      .select('late')
      .where('page.id', '=', page)
      .executeTakeFirstOrThrow()
  ).late;

const HAND_IN_FAULTS = {
  'is handed in': 'This copy is handed in already.',
  'comes too late': 'It was due, and is not taken any more. Ask your teacher for more time.',
};
const TAKE_BACK_FAULTS = {
  'is not handed in': 'There is nothing handed in to take back.',
  'is being looked at': 'Your teacher is looking at this copy, so it cannot be taken back now.',
  'could not come again':
    'Its due time is over and nothing is taken after it, so what was handed in stays.',
};

/** @param note what the student says with it @throws Refusal when it cannot be handed in now */
export async function handIn(
  app: Using<'db' | 'news' | 'pages'>,
  grant: Grant<'do own work'>,
  note: string,
): Promise<void> {
  const { page } = moveOf(grant);
  const held = await app.pages.open(page);
  const late = await lateRuleOf(app, page);
  await record(
    app,
    'handed in',
    { ...moveOf(grant), note },
    ({ facts }) => {
      const fault = handInFault(facts, late, Date.now());
      if (fault) throw new Refusal(409, HAND_IN_FAULTS[fault]);
    },
    (tx, _version, school) => writeSnapshots(tx, new Date(), [{ id: page, school, held }]),
  );
}

export async function takeBack(
  app: Using<'db' | 'news'>,
  grant: Grant<'do own work'>,
): Promise<void> {
  const move = moveOf(grant);
  const late = await lateRuleOf(app, move.page);
  await record(app, 'taken back', move, ({ facts }) => {
    const fault = takeBackFault(facts, late, Date.now());
    if (fault) throw new Refusal(409, TAKE_BACK_FAULTS[fault]);
  });
}

/** The first time a student opens a copy that they have, alone or with others. */
export async function opened(
  app: Using<'db' | 'news'>,
  grant: Grant<'see own copy'>,
): Promise<void> {
  const move = moveOf(grant);
  const copy = await readCopy(app.db, move.page, move.person);
  if (!copy.openers.includes(move.person)) await record(app, 'opened', move, () => undefined);
}

/**
 * One of the staff looked inside; told only when there was something new.
 * @param handedIn when what they saw had been handed in: what was handed in later was not looked at yet
 */
export async function looked(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  handedIn: number | null,
): Promise<void> {
  const move = moveOf(grant);
  const { facts } = await readCopy(app.db, move.page, move.person);
  const newest = Math.max(facts.written ?? 0, facts.handedIn ?? 0, facts.opened ?? 0);
  if (facts.looked !== null && facts.looked >= newest) return;
  await record(app, 'looked', move, (copy) => {
    if (copy.facts.handedIn !== handedIn)
      throw new Refusal(409, 'This copy was handed in just now; please look again.');
  });
}

const addScore =
  (points: string, { page, person }: Move) =>
  async (tx: Connection, version: number, school: number) =>
    void (await tx
      .insertInto('score')
      .values({ school_id: school, page_id: page, person_id: person, points, version })
      .execute());

const refuseUntouched = ({ facts }: CopyRow) => {
  if (handBackFault(facts))
    throw new Refusal(409, 'This copy has not been opened yet, so there is nothing to hand back.');
};

/** Gives points without handing back: only the staff see them. Every score stays in the record. */
export async function score(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  points: string,
): Promise<void> {
  const move = moveOf(grant);
  await record(app, 'looked', move, () => undefined, addScore(points, move));
}

/** Hands a copy back with its feedback; with points where the assignment has them. */
export async function handBack(
  app: Using<'db' | 'news'>,
  grant: Grant<'mark'>,
  points: string | null,
): Promise<void> {
  const move = moveOf(grant);
  const { page } = move;
  await record(app, 'handed back', move, refuseUntouched, async (tx, version, school) => {
    if (points !== null) await addScore(points, move)(tx, version, school);
    const { title, people } = await tx
      .selectFrom('page')
      .select(['title', HOLDERS.as('people')])
      .where('id', '=', page)
      .executeTakeFirstOrThrow();
    await notify(tx, {
      school,
      people,
      link: `/work/${page}`,
      fact: { kind: 'handed back', title },
      cause: `handed back ${page} ${Date.now()}`,
    });
  });
}

/** A copy as it stands for whoever marks it. */
export const readMarked = (db: Connection, { thing, person }: Grant<'mark'>): Promise<CopyRow> =>
  readCopy(db, thing.id, person.id);
