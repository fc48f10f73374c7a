import { sql } from 'kysely';
import type { SaidOnPile } from '$core/marking/said-on-piles';
import type { Connection } from '../page/page-store';
import { COMMENT_SENT, COMMENT_STANDS } from './sent';

/** What was said on a pile of answers: on which part, and in which words, the blanks in them not filled in. */
export interface OnPile {
  part: string;
  text: string;
}

const IS_SETTLED = sql<boolean>`coalesce((select last.kind = 'settled' from comment last
  where last.thread_id = thread.id and last.kind <> 'said' order by last.id desc limit 1), false)`;

/** What was said on piles of a part and stands open in these copies, in the order in which it was said. */
export async function readSaidOnPiles(
  db: Connection,
  part: string,
  copies: readonly string[],
): Promise<{ copy: string; said: SaidOnPile }[]> {
  if (copies.length === 0) return [];
  const rows = await db
    .selectFrom('thread')
    .innerJoin('comment', 'comment.thread_id', 'thread.id')
    .select('thread.page_id')
    .select(sql<string>`comment.pile ->> 'text'`.as('text'))
    .select(sql<boolean>`not ${COMMENT_SENT}`.as('kept_back'))
    .where('thread.page_id', 'in', [...copies])
    .where(sql<boolean>`comment.pile ->> 'part' = ${part}`)
    .where(COMMENT_STANDS)
    .where(sql<boolean>`not ${IS_SETTLED}`)
    .orderBy('comment.id')
    .execute();
  return rows.map(({ page_id, text, kept_back }) => ({
    copy: page_id,
    said: { text, keptBack: kept_back },
  }));
}
