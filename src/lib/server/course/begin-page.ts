import type { Node } from 'prosemirror-model';
import { emptyPage } from '$core/page/schema';
import type { Grant } from '../access/grant';
import { findWelcome } from '../class/plan';
import type { Area } from '../db/schema';
import { checkUnit, putAway } from './units';
import { HeldPage } from '../page/held-page';
import type { Database } from '../db/connect';
import { Refusal } from '../page/refusal';
import { inTransaction, type Tx } from '../db/transaction';
import { writeSnapshots } from '../page/write-changes';

/** Where a new page goes: into a course, as an original or a reading, or into an area of a class. */
export type PagePlace =
  | { kind: 'original' | 'reading'; course: string }
  | { kind: 'class page'; class: string; area: Area };

interface NewPage {
  title: string;
  at: Date;
  unit?: string | null;
}

/**
 * A new page of a course, empty or as given, behind the others of its unit.
 * @returns its id
 * @throws Refusal
 */
export const beginPage = (
  db: Database,
  { thing }: Grant<'write the course'>,
  { kind, ...spec }: NewPage & { kind: 'original' | 'reading' },
  page: Node = emptyPage(),
): Promise<string> =>
  inTransaction(db, (tx) =>
    insertPage(tx, { ...spec, school: thing.school_id, in: { kind, course: thing.id } }, page),
  );

/** A new page of a class. @returns its id @throws Refusal when it would be a second welcome page */
export const beginClassPage = (
  db: Database,
  { thing }: Grant<'manage the class'>,
  { area, ...spec }: NewPage & { area: Area },
  page: Node = emptyPage(),
): Promise<string> =>
  inTransaction(db, async (tx) => {
    if (area === 'welcome') await checkWelcome(tx, thing.id);
    const place = { kind: 'class page', class: thing.id, area } as const;
    return insertPage(tx, { ...spec, school: thing.school_id, in: place }, page);
  });

/** Takes a page away from its class, or brings it back. @throws Refusal when it would be a second welcome page */
export const putClassPageAway = (
  db: Database,
  grant: Grant<'manage the class'>,
  page: string,
  away: boolean,
): Promise<void> =>
  inTransaction(db, async (tx) => {
    const is = await tx
      .selectFrom('page')
      .select('area')
      .where('id', '=', page)
      .where('class_id', '=', grant.thing.id)
      .executeTakeFirst();
    if (is?.area === 'welcome' && !away) await checkWelcome(tx, grant.thing.id);
    await putAway(tx, grant, page, away);
  });

/** @throws Refusal when a class has a welcome page; until the transaction is over it gets no other */
async function checkWelcome(tx: Tx, klass: string): Promise<void> {
  await tx.selectFrom('class').select('id').where('id', '=', klass).forNoKeyUpdate().execute();
  if (await findWelcome(tx, klass))
    throw new Refusal(409, 'The class has a welcome page already. Remove that one first.');
}

interface PlacedPage {
  school: number;
  at: Date;
  title: string;
  in: PagePlace;
  unit?: string | null;
}

async function insertPage(tx: Tx, spec: PlacedPage, page: Node): Promise<string> {
  const { in: place, unit = null } = spec;
  await checkUnit(tx, 'course' in place ? { course: place.course } : { class: place.class }, unit);
  const { id } = await tx
    .insertInto('page')
    .values((eb) => ({
      school_id: spec.school,
      kind: place.kind,
      title: spec.title,
      made_at: spec.at,
      ...('course' in place
        ? { course_id: place.course }
        : { class_id: place.class, area: place.area }),
      unit_id: unit,
      place: eb
        .selectFrom('page')
        .select((last) =>
          last.fn.coalesce(last.fn.max(last('place', '+', 1)), last.val(0)).as('next'),
        )
        .where(
          'course' in place ? 'course_id' : 'class_id',
          '=',
          'course' in place ? place.course : place.class,
        )
        .where('unit_id', 'is not distinct from', unit),
    }))
    .returning('id')
    .executeTakeFirstOrThrow();
  await writeSnapshots(tx, spec.at, [{ id, school: spec.school, held: HeldPage.at(0, page, []) }]);
  return id;
}
