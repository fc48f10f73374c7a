import type { Node } from 'prosemirror-model';
import { emptyPage } from '$core/page/schema';
import type { Area } from '../db/schema';
import { checkUnit } from './units';
import { HeldPage } from '../page/held-page';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import { writeSnapshots } from '../page/write-changes';

/** Where a new page goes: into a course, as an original or a reading, or into an area of a class. */
export type PagePlace =
  | { kind: 'original' | 'reading'; course: string }
  | { kind: 'class page'; class: string; area: Area };

export interface NewPage {
  school: number;
  at: Date;
  title: string;
  in: PagePlace;
  unit?: string | null;
}

/** A new page that is no copy, empty or as given, behind the others of its unit. @returns its id @throws Refusal */
export const beginPage = (db: Database, wish: NewPage, page: Node = emptyPage()): Promise<string> =>
  inTransaction(db, (tx) => insertPage(tx, wish, page));

async function insertPage(tx: Tx, wish: NewPage, page: Node = emptyPage()): Promise<string> {
  const { in: place, unit = null } = wish;
  await checkUnit(tx, 'course' in place ? { course: place.course } : { class: place.class }, unit);
  const { id } = await tx
    .insertInto('page')
    .values((eb) => ({
      ...{ school_id: wish.school, kind: place.kind, title: wish.title, made_at: wish.at },
      ...('course' in place
        ? { course_id: place.course }
        : { class_id: place.class, area: place.area }),
      ...{ unit_id: unit },
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
  await writeSnapshots(tx, wish.at, [{ id, school: wish.school, held: HeldPage.at(0, page, []) }]);
  return id;
}
