import { HandOutWish } from '$core/handout/wish';
import type { PageMemory } from '../page/page-memory';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { readStanding } from './copies';
import { readSituation } from './situation';

/** The wish that an assignment stands for. @throws Refusal when there is none, or it was made before wishes were kept */
async function readWish(db: Connection, assignment: string, lock = false) {
  const row = await db
    .selectFrom('assignment')
    .innerJoin('school', 'school.id', 'assignment.school_id')
    .select(['assignment.id', 'assignment.school_id', 'wish', 'time_zone', 'made_by'])
    .where('assignment.id', '=', assignment)
    .$if(lock, (query) => query.forUpdate('assignment'))
    .executeTakeFirst();
  if (!row?.wish) throw new Refusal(404, 'There is no such assignment here.');
  return { ...row, wish: HandOutWish.parse(row.wish) };
}

/**
 * An assignment as it stands: its wish, every copy of it, and what a plan is made for now.
 * @param options `now`: epoch milliseconds; `lock`: until the transaction ends; `plans`: the wish to be planned, if it is another
 */
export async function readHandedOut(
  memory: PageMemory,
  db: Connection,
  assignment: string,
  { now, lock = false, plans }: { now: number; lock?: boolean; plans?: HandOutWish },
) {
  const row = await readWish(db, assignment, lock);
  const { wish, made_by, school_id: school, time_zone: timeZone } = row;
  const standing = await readStanding(db, assignment);
  const blank = standing[0]?.for ?? '';
  const at = { now, goesOut: now, timeZone, school, blank };
  const situation = await readSituation(memory, db, plans ?? wish, at);
  /** The students of its classes. */
  const present = new Set(
    situation.classes.flatMap(({ students }) => students.map(({ id }) => id)),
  );
  return { wish, made_by, school, timeZone, standing, situation, present };
}
