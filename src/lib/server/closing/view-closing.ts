import { openMatters } from '$core/closing/open-matters';
import { gapsNow } from '$core/headcount/headcount';
import type { Grant } from '../access/grant';
import { readTerm } from '../class/board';
import { readCopies } from '../copy/facts';
import { readUnits } from '../course/units';
import type { Database } from '../db/connect';
import { readDrafts } from '../handout/drafts';
import { countWaiting } from '../collecting/read-collecting';
import { countClasses } from '../headcount/count';
import { findElsewhere } from '../headcount/elsewhere';
import { readAskedInto } from '../roster/join-requests';

/** What stands in a class, in the order of its units: titles, and in which unit. */
const readStanding = (db: Database, klass: string) =>
  db
    .selectFrom('assignment_class as handed')
    .innerJoin('assignment', 'assignment.id', 'handed.assignment_id')
    .leftJoin('unit', 'unit.id', 'handed.unit_id')
    .select(['assignment.id', 'assignment.title', 'handed.unit_id as unit'])
    .where('handed.class_id', '=', klass)
    .where('handed.withdrawn_at', 'is', null)
    .orderBy('unit.place')
    .orderBy('handed_out_at')
    .execute();

const readPagesByUnit = async (db: Database, klass: string) =>
  db
    .selectFrom('page')
    .select(['unit_id as unit'])
    .where('class_id', '=', klass)
    .where('kind', '=', 'class page')
    .where('away_at', 'is', null)
    .execute();

/** What is open in a class whose term ends, and its units with what lies in them. */
export async function viewClosing(db: Database, grant: Grant<'close the term'>) {
  const { thing: klass, person } = grant;
  const [assignments, copies, counts, drafts, asked, units, pages, files] = await Promise.all([
    readStanding(db, klass.id),
    readCopies(db, { class: klass.id }, person.id),
    countClasses(db, [klass.id]),
    readDrafts(db, [klass.id]),
    readAskedInto(db, klass.id),
    readUnits(db, { class: klass.id }),
    readPagesByUnit(db, klass.id),
    countWaiting(db, klass.id),
  ]);
  const elsewhere = await findElsewhere(db, grant, copies);
  const inUnit = (rows: readonly { unit: string | null }[], unit: string) =>
    rows.filter((row) => row.unit === unit).length;
  return {
    klass,
    term: await readTerm(db, klass),
    matters: openMatters({
      assignments,
      copies,
      gaps: gapsNow(counts, copies, elsewhere, Date.now()),
      files,
      drafts: drafts.map(({ id, spec, goesOut }) => ({ id, title: spec.title, goesOut })),
      asked: asked.map(({ person: who, student }) => ({ person: who, name: student })),
    }),
    units: units.map(({ id, title, stored }) => ({
      id,
      title,
      stored,
      assignments: inUnit(assignments, id),
      pages: inUnit(pages, id),
    })),
    now: Date.now(),
  };
}
