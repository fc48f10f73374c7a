import { z } from 'zod';
import { dealCopies, dealFault, DEALS, type DealBy } from '$core/marking/deal';
import type { Grant } from '../access/grant';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { readMarkers, readStaff } from './markers';
import { readLine } from './marking-place';

export const Deal = z.object({
  by: z.enum(Object.keys(DEALS) as [DealBy, ...DealBy[]]),
  twice: z.int().min(0).max(5000),
  markers: z.array(z.uuid()).max(100),
});

/** Who marks each copy of a class, to be set as it was. */
export const Dealt = z.object({
  copies: z.array(z.object({ copy: z.uuid(), markers: z.array(z.uuid()).max(2) })).max(5000),
});
export type Dealt = z.infer<typeof Dealt>;

/**
 * Deals the copies of an assignment in a class to those who mark them.
 * @returns how they were dealt before
 */
export const dealOut = (
  app: Using<'db' | 'news'>,
  grant: Grant<'run the assignment'>,
  asked: z.infer<typeof Deal>,
): Promise<Dealt> =>
  setMarkers(app, grant, (copies) => {
    const fault = dealFault(asked, copies.length);
    if (fault) throw new Refusal(422, fault);
    return dealCopies(copies, asked);
  });

/** Sets who marks each copy, such as it was before. */
export const dealAsBefore = (
  app: Using<'db' | 'news'>,
  grant: Grant<'run the assignment'>,
  { copies }: Dealt,
): Promise<Dealt> =>
  setMarkers(app, grant, () => new Map(copies.map(({ copy, markers }) => [copy, markers])));

async function setMarkers(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'run the assignment'>,
  deal: (copies: { id: string; group: string }[]) => ReadonlyMap<string, string[]>,
): Promise<Dealt> {
  const { id: assignment, class: klass, school_id } = thing;
  const before = await inTransaction(app.db, async (tx) => {
    // One deals at a time.
    await tx
      .selectFrom('assignment_class')
      .select('class_id')
      .where('assignment_id', '=', assignment)
      .where('class_id', '=', klass.id)
      .forUpdate()
      .execute();
    const line = await readLine(tx, { assignment, klass: klass.id }, person.id);
    const copies = line.map(({ copy, group }) => ({ id: copy.id, group }));
    const ids = copies.map(({ id }) => id);
    const had = await readMarkers(tx, { pages: ids });
    const dealt = deal(copies);
    const rows = copies.flatMap(({ id }) =>
      [...new Set(dealt.get(id))].map((one) => ({ page_id: id, person_id: one, school_id })),
    );
    await refuseOthers(tx, klass.id, [...new Set(rows.map((row) => row.person_id))]);
    if (ids.length > 0) await tx.deleteFrom('marker').where('page_id', 'in', ids).execute();
    if (rows.length > 0) await tx.insertInto('marker').values(rows).execute();
    return ids.map((copy) => ({ copy, markers: (had.get(copy) ?? []).map(({ id }) => id) }));
  });
  publishToClasses(app, [klass.id]);
  return { copies: before };
}

async function refuseOthers(db: Connection, klass: string, people: readonly string[]) {
  const staff = new Set((await readStaff(db, klass)).map(({ id }) => id));
  if (people.some((id) => !staff.has(id)))
    throw new Refusal(422, 'Somebody of them is not on the staff of this class any more.');
}
