import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { lockPage } from './lock-page';
import { publishMargin } from './publish-margin';
import { COMMENT_SENT } from './sent';

/** What one said oneself, and whether others have it: its student, or, of what the staff keep among themselves, a colleague. @throws Refusal */
async function readOwn(tx: Tx, { thing, person }: Grant<'comment'>, comment: string) {
  const own = await tx
    .selectFrom('comment')
    .innerJoin('thread', 'thread.id', 'comment.thread_id')
    .select('comment.school_id')
    .select(sql<boolean>`(thread.staff_only or ${COMMENT_SENT})`.as('isOut'))
    .where('comment.id', '=', comment)
    .where('comment.person_id', '=', person.id)
    .where('comment.kind', '=', 'said')
    .where('thread.page_id', '=', thing.id)
    .executeTakeFirst();
  if (!own) throw new Refusal(404, 'This comment is not there, or is not yours.');
  return own;
}

/** Withdraws a comment in the margin of a page that is locked. @throws Refusal where others have it, or it is withdrawn */
export async function withdrawIn(tx: Tx, grant: Grant<'comment'>, comment: string): Promise<void> {
  const { school_id, isOut } = await readOwn(tx, grant, comment);
  if (isOut)
    throw new Refusal(
      409,
      'Others have this comment: what was said stays said. You can settle it.',
    );
  const done = await tx
    .insertInto('comment_withdrawal')
    .values({ comment_id: comment, school_id })
    .onConflict((conflict) => conflict.doNothing())
    .executeTakeFirst();
  if (!done.numInsertedOrUpdatedRows)
    throw new Refusal(409, 'This comment was changed or withdrawn meanwhile. Please look again.');
}

/**
 * Withdraws what one said oneself and its student does not have yet, or brings it back.
 * @throws Refusal where its student has it, or would have it at once
 */
export async function setWithdrawn(
  app: Using<'db' | 'news'>,
  grant: Grant<'comment'>,
  comment: string,
  withdrawn: boolean,
): Promise<void> {
  const page = grant.thing.id;
  const row = await inTransaction(app.db, async (tx) => {
    const locked = await lockPage(tx, page);
    if (withdrawn) await withdrawIn(tx, grant, comment);
    else {
      await tx.deleteFrom('comment_withdrawal').where('comment_id', '=', comment).execute();
      // What is refused here takes the deletion back with it.
      const { isOut } = await readOwn(tx, grant, comment);
      if (isOut)
        throw new Refusal(
          409,
          'The copy went back meanwhile. Please say it anew, if it is still to be said.',
        );
    }
    return locked;
  });
  publishMargin(app, page, row, true);
}
