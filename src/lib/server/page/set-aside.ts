import type { SetAsideText } from '$core/page/protocol';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';

/** A person's own set-aside words on a page that they have not dealt with yet, oldest first. */
export async function readSetAside(
  db: Database,
  page: string,
  author: string,
): Promise<SetAsideText[]> {
  const rows = await db
    .selectFrom('set_aside')
    .leftJoin('set_aside_settled', (join) =>
      join
        .onRef('set_aside_settled.page_id', '=', 'set_aside.page_id')
        .onRef('set_aside_settled.client', '=', 'set_aside.client')
        .onRef('set_aside_settled.client_no', '=', 'set_aside.client_no'),
    )
    .select(['set_aside.client', 'set_aside.client_no as no', 'set_aside.words', 'set_aside.at'])
    .where('set_aside.page_id', '=', page)
    .where('set_aside.author_id', '=', author)
    .where('set_aside.words', '<>', '')
    .where('set_aside_settled.at', 'is', null)
    .orderBy('set_aside.at')
    .orderBy('set_aside.client_no')
    .execute();
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}

export const readOwnSetAside = (
  db: Database,
  { thing, person }: Grant<'read the page'>,
): Promise<SetAsideText[]> => readSetAside(db, thing.id, person.id);

export async function settleSetAside(
  db: Database,
  { thing: page, person: author }: Grant<'read the page'>,
  settled: { client: string; numbers: readonly number[] },
): Promise<void> {
  await db
    .insertInto('set_aside_settled')
    .columns(['page_id', 'client', 'client_no', 'school_id'])
    .expression((eb) =>
      eb
        .selectFrom('set_aside')
        .select(['page_id', 'client', 'client_no', 'school_id'])
        .where('page_id', '=', page.id)
        .where('author_id', '=', author.id)
        .where('client', '=', settled.client)
        .where('client_no', 'in', settled.numbers),
    )
    .onConflict((conflict) => conflict.doNothing())
    .execute();
}
