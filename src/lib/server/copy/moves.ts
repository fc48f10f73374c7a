import { isTooLate, mayHandIn, mayTakeBack, stateOf } from '$core/copy/state';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { tell } from '../class/messages';
import type { EventKind } from '../db/schema';
import { studentsWhoHear } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { writeSnapshots } from '../page/write-changes';
import { Refusal } from '../page/refusal';
import { HOLDERS, SHARERS } from './holders';
import { readCopy, type CopyRow } from './facts';
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
  const told = await inTransaction(app.db, async (tx) => {
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
    const withTeacher = { 'handed in': true, 'taken back': false, 'handed back': false }[
      kind as string
    ];
    if (withTeacher !== undefined)
      await tx
        .updateTable('page')
        .set({ with_teacher: withTeacher })
        .where('id', '=', page)
        .execute();
    return row;
  });
  app.news.tell({
    page,
    version: told.version,
    at: Date.now(),
    ...studentsWhoHear(told),
    places: told.class_id ? [told.class_id] : [],
    record: true,
  });
}

/** @param note what the student says with it @throws Refusal when it cannot be handed in now */
export async function handIn(
  app: Using<'db' | 'news' | 'pages'>,
  grant: Grant<'do own work'>,
  note: string,
): Promise<void> {
  const { page } = moveOf(grant);
  const held = await app.pages.open(page);
  const { late } = await app.db
    .selectFrom('assignment')
    .innerJoin('page', 'page.assignment_id', 'assignment.id')
    .select('late')
    .where('page.id', '=', page)
    .executeTakeFirstOrThrow();
  await record(
    app,
    'handed in',
    { ...moveOf(grant), note },
    (copy) => {
      if (!mayHandIn(stateOf(copy.facts)))
        throw new Refusal(409, 'This copy is handed in already.');
      if (late === 'not taken' && isTooLate(copy.facts, Date.now()))
        throw new Refusal(
          409,
          'It was due, and is not taken any more. Ask your teacher for more time.',
        );
    },
    (tx, _version, school) => writeSnapshots(tx, new Date(), [{ id: page, school, held }]),
  );
}

export const takeBack = (app: Using<'db' | 'news'>, grant: Grant<'do own work'>): Promise<void> =>
  record(app, 'taken back', moveOf(grant), (copy) => {
    if (stateOf(copy.facts) === 'handed in' && !mayTakeBack(copy.facts))
      throw new Refusal(
        409,
        'Your teacher is looking at this copy, so it cannot be taken back now.',
      );
    if (!mayTakeBack(copy.facts))
      throw new Refusal(409, 'There is nothing handed in to take back.');
  });

/** The first time a student opens a copy that she has, alone or with others. */
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

const gaveWork = (copy: CopyRow) => {
  if (copy.facts.opened === null && copy.facts.written === null)
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
  await record(app, 'handed back', move, gaveWork, async (tx, version, school) => {
    if (points !== null) await addScore(points, move)(tx, version, school);
    const { title, people } = await tx
      .selectFrom('page')
      .select(['title', HOLDERS.as('people')])
      .where('id', '=', page)
      .executeTakeFirstOrThrow();
    await tell(tx, {
      school,
      people,
      link: `/work/${page}`,
      subject: `Handed back: ${title}`,
      text: 'Your teacher has looked at it.',
      cause: `handed back ${page} ${Date.now()}`,
    });
  });
}

/** A copy as it stands for whoever marks it. */
export const readMarked = (db: Connection, { thing, person }: Grant<'mark'>): Promise<CopyRow> =>
  readCopy(db, thing.id, person.id);
