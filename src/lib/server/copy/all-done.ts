import type { CopyRow } from '$core/copy/copy-row';
import { notDone } from '$core/copy/state';
import type { Tx } from '../db/transaction';
import { readCopy } from './facts';
import { markByKey } from './mark-by-key';
import { recordMoveIn } from './record-move';
import { tellStaff } from './tell-of-hand-in';

/** Who of those who share a page said *done* last. */
const lastOf = ({ each }: CopyRow) =>
  [...(each ?? [])].sort((one, other) => (other.handedIn ?? 0) - (one.handedIn ?? 0))[0];

/**
 * Hands in the shared pages that wait for nobody any more, because whoever had not said *done* is gone, or because each says
 * it now. They are handed in by who said it last.
 */
export async function handInWhatIsDone(
  tx: Tx,
  of: { class: string } | { assignment: string },
): Promise<void> {
  const pages = await tx
    .selectFrom('page')
    .innerJoin('assignment', 'assignment.id', 'page.assignment_id')
    .select(['page.id', 'page.school_id'])
    .where('hand_in', '=', 'each')
    .where('delivery', '=', 'one for all')
    .where('student_id', 'is', null)
    .where('with_teacher', '=', false)
    .where('replaced_at', 'is', null)
    .where('away_at', 'is', null)
    .where('sealed', '=', false)
    .$if('class' in of, (query) => query.where('class_id', '=', 'class' in of ? of.class : ''))
    .$if('assignment' in of, (query) =>
      query.where('assignment.id', '=', 'assignment' in of ? of.assignment : ''),
    )
    .orderBy('page.id')
    .forUpdate('page')
    .execute();
  for (const { id: page, school_id: school } of pages) {
    const copy = await readCopy(tx, page, '');
    const last = lastOf(copy);
    if (!last || notDone(copy)?.length !== 0) continue;
    const recorded = await recordMoveIn(
      tx,
      { page, person: last.student },
      () => ['handed in'],
      async () => {
        await tellStaff(tx, school, copy);
        return null;
      },
    );
    await markByKey(tx, page, recorded);
  }
}
