import { HandOutSpec } from '$core/handout/spec';
import type { PageMemory } from '../page/page-memory';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { readStandingCopies } from './copies';
import { readSituation } from './situation';

/** The spec that an assignment stands for. @throws Refusal when there is none, or it was made before specs were kept */
async function readSpec(db: Connection, assignment: string, lock = false) {
  const row = await db
    .selectFrom('assignment')
    .innerJoin('school', 'school.id', 'assignment.school_id')
    .select(['assignment.id', 'assignment.school_id', 'spec', 'time_zone', 'made_by'])
    .where('assignment.id', '=', assignment)
    .$if(lock, (query) => query.forUpdate('assignment'))
    .executeTakeFirst();
  if (!row?.spec) throw new Refusal(404, 'There is no such assignment here.');
  return { ...row, spec: HandOutSpec.parse(row.spec) };
}

/**
 * An assignment as it stands: its spec, every copy of it, and what a plan is made for now.
 * @param options `now`: epoch milliseconds; `lock`: until the transaction ends; `plans`: the spec to be planned, if it is another
 */
export async function readHandedOut(
  memory: PageMemory,
  db: Connection,
  assignment: string,
  { now, lock = false, plans }: { now: number; lock?: boolean; plans?: HandOutSpec },
) {
  const row = await readSpec(db, assignment, lock);
  const { spec, made_by, school_id: school, time_zone: timeZone } = row;
  const standing = await readStandingCopies(db, assignment);
  const blank = standing[0]?.for ?? '';
  const at = { now, goesOut: now, timeZone, school, blank };
  const situation = await readSituation(memory, db, plans ?? spec, at);
  /** The students of its classes. */
  const present = new Set(
    situation.classes.flatMap(({ students }) => students.map(({ id }) => id)),
  );
  return { spec, made_by, school, timeZone, standing, situation, present };
}
