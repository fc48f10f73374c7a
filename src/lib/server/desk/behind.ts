import { sql } from 'kysely';
import { stuckPart } from '$core/board/stuck';
import type { DeskView, Stuck } from '$core/desk/desk-view';
import { asksForWork, isWithTeacher, stateOf } from '$core/copy/state';
import { grouped } from '$core/lists/grouped';
import { listed } from '$core/lists/listed';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import { readWorkedParts } from '../copy/worked-parts';
import type { Database } from '../db/connect';
import { countClasses, mayLackCopies } from '../headcount/count';
import { readNames } from '../school/names';
import { readOwnClasses } from './own-classes';

const DAY = 86_400_000;
/** Who did not write for longer is not stuck, but away. */
const STUCK_SINCE = 7 * DAY;

/**
 * What the desk says of a teacher's classes for which a year's work is gone through: who lacks copies, and who is stuck. It is
 * read behind the rest.
 */
export async function readBehind(
  db: Database,
  { person: teacher }: Grant<'see own desk'>,
  now: number,
): Promise<Pick<DeskView, 'lacking' | 'stuck' | 'names'>> {
  const own = await readOwnClasses(db, teacher.id);
  const classes = own.filter(({ leads }) => leads).map(({ id }) => id);
  const lacking = await readLacking(db, classes);
  return {
    lacking,
    stuck: await readStuck(db, classes, teacher.id, now),
    names: await readNames(
      db,
      lacking.map(({ student }) => student),
    ),
  };
}

async function readLacking(db: Database, classes: readonly string[]) {
  const counts = await countClasses(db, classes, await mayLackCopies(db, classes));
  return counts.flatMap(({ gaps }) =>
    gaps
      .filter(({ cause }) => cause === 'never made' || cause === 'removed')
      .flatMap(({ assignment, class: of, students, since }) =>
        students.map((student) => ({ assignment, class: of, student, since })),
      ),
  );
}

/** Who wrote in these days and does not get on with a part. */
async function readStuck(
  db: Database,
  classes: readonly string[],
  viewer: string,
  now: number,
): Promise<Stuck[]> {
  const since = new Date(now - STUCK_SINCE);
  const { rows: active } = await sql<{ assignment: string; class: string; title: string }>`
    select distinct page.assignment_id as assignment, page.class_id as class, assignment.title from page
    join assignment on assignment.id = page.assignment_id
    where page.class_id = any(${classes}::uuid[]) and page.kind = 'copy' and page.written_at > ${since}
      and not page.with_teacher and page.away_at is null and page.replaced_at is null`.execute(db);
  const copies = (await readCopies(db, { assignments: active }, viewer)).filter(asksForWork);
  const worked = await readWorkedParts(db, copies);
  const titleOf = new Map(active.map((one) => [one.assignment, one.title]));
  const found = [...grouped(copies, (copy) => `${copy.class} ${copy.for}`).values()].flatMap(
    (same) => {
      const all = same.flatMap(({ id }) => worked.get(id) ?? []);
      return same.flatMap((copy) => {
        const own = worked.get(copy.id);
        const { written } = copy.facts;
        const isAtIt =
          written !== null && written > since.getTime() && !isWithTeacher(stateOf(copy.facts));
        const stuck = own && isAtIt ? stuckPart(own, all) : null;
        return stuck && written !== null ? [{ copy, stuck, written }] : [];
      });
    },
  );
  const names = await readNames(
    db,
    found.flatMap(({ copy }) => copy.members),
  );
  return found.map(({ copy, stuck: { part, minutes, others }, written }) => ({
    copy: copy.id,
    class: copy.class,
    mask: copy.mask,
    title: titleOf.get(copy.assignment) ?? '',
    who: listed(copy.members.map((id) => names[id] ?? '')),
    part: { id: part.id, number: part.number, label: part.label },
    minutes: Math.round(minutes),
    others,
    at: written,
  }));
}
