import type { CopyRow } from '$core/copy/copy-row';
import type { EventKind } from '$core/copy/reduce';
import { isWithTeacher, stateOf } from '$core/copy/state';
import { inCupboard, OPEN_CLASS } from '../access/class-state';
import type { Grant } from '../access/grant';
import { inTransaction, type Tx } from '../db/transaction';
import { studentsWhoHear } from '../live/listeners';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';
import { readCopy } from './facts';
import { lockPage } from './lock-page';

/** Whose move it is, of which copy. */
export interface Move {
  page: string;
  person: string;
  note?: string;
  /** What they had before them, where that may not be the newest. */
  version?: number;
}
export const moveOf = ({ thing, person }: Pick<Grant<'mark'>, 'thing' | 'person'>): Move => ({
  page: thing.id,
  person: person.id,
});

/** The copy that a move is recorded of, as it is locked. */
export interface MovedCopy {
  school: number;
  version: number;
  /** How it stood before the move. */
  copy: CopyRow;
  /** What is recorded. */
  kinds: readonly EventKind[];
}

/** A copy after a move. */
export interface Recorded {
  kinds: readonly EventKind[];
  version: number;
  school_id: number;
  class_id: string | null;
  student_id: string | null;
  sharers: string[];
  copy: CopyRow;
  isSeen: boolean;
}

/**
 * Records in a transaction that something happened to a copy, with the copy locked.
 * @param may says what it is, by how the copy stands then; or refuses it
 * @param also what else is done with it, and the id of the score that goes back to its students by this, or null
 * @returns the copy as it stands then
 */
export async function recordMoveIn(
  tx: Tx,
  { page, person, note = '', version = Infinity }: Move,
  may: (copy: CopyRow) => readonly EventKind[],
  also: (tx: Tx, at: MovedCopy) => Promise<string | null> = async () => null,
): Promise<Recorded> {
  const row = await lockPage(tx, page);
  const before = await readCopy(tx, page, person);
  const kinds = may(before);
  const at = { school: row.school_id, version: row.version, copy: before, kinds };
  const score = await also(tx, at);
  if (kinds.length > 0)
    await tx
      .insertInto('event')
      .values(
        kinds.map((kind, index) => ({
          school_id: row.school_id,
          page_id: page,
          person_id: person,
          kind,
          version: Math.min(version, row.version),
          note: index === kinds.length - 1 ? note : '',
          score_id: score,
        })),
      )
      // Two tabs open a copy once.
      .onConflict((conflict) => conflict.doNothing())
      .execute();
  const copy = await readCopy(tx, page, person);
  await tx
    .updateTable('page')
    .set({ with_teacher: isWithTeacher(stateOf(copy.facts)) })
    .where('id', '=', page)
    .execute();
  return { ...row, kinds, copy, isSeen: await isSeen(tx, page) };
}

/**
 * The same in a transaction of its own, told to whoever sees the copy.
 * @param then what comes of it in the same transaction
 */
export async function recordMove(
  app: Using<'db' | 'news'>,
  move: Move,
  may: (copy: CopyRow) => readonly EventKind[],
  also?: (tx: Tx, at: MovedCopy) => Promise<string | null>,
  then: (tx: Tx, recorded: Recorded) => Promise<Recorded> = async (_tx, recorded) => recorded,
): Promise<void> {
  const done = await inTransaction(app.db, async (tx) =>
    then(tx, await recordMoveIn(tx, move, may, also)),
  );
  publishMove(app, move, done);
}

/** Tells whoever sees a copy how it stands after a move. */
export function publishMove(app: Using<'news'>, { page, person }: Move, done: Recorded): void {
  app.news.publish({
    news: { kind: 'copy', page, version: done.version, by: person, row: done.copy },
    ...(done.isSeen ? studentsWhoHear(done) : {}),
    places: done.class_id ? [done.class_id] : [],
  });
}

/** Whether a copy's students see it: its class is open, and neither it nor its assignment was withdrawn. */
export const isSeen = async (tx: Connection, page: string): Promise<boolean> =>
  (await tx
    .selectFrom('page')
    .innerJoin('assignment_class as handed', (join) =>
      join
        .onRef('handed.assignment_id', '=', 'page.assignment_id')
        .onRef('handed.class_id', '=', 'page.class_id'),
    )
    .innerJoin('class', 'class.id', 'page.class_id')
    .select('page.id')
    .where('page.id', '=', page)
    .where('page.away_at', 'is', null)
    .where('handed.withdrawn_at', 'is', null)
    .where(OPEN_CLASS)
    .where((eb) => eb.not(inCupboard('handed.unit_id')))
    .executeTakeFirst()) !== undefined;
