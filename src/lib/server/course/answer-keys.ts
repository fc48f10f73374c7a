import type { AnswerKey } from '$core/marking/check-answer';
import type { Database } from '../db/connect';

/** What the teacher expects in each part. For staff only. */
export async function readKeys(db: Database, page: string): Promise<Record<string, AnswerKey>> {
  const rows = await db
    .selectFrom('answer_key')
    .select(['part_id', 'body'])
    .where('page_id', '=', page)
    .execute();
  return Object.fromEntries(rows.map((row) => [row.part_id, row.body as AnswerKey]));
}

/** The keys for a copy: those of the page it began as, or, where it began as a shared copy, of the assignment's original. */
export async function readCopyKeys(
  db: Database,
  { source, for: original }: { source: string; for: string },
): Promise<Record<string, AnswerKey>> {
  const { kind } = await db
    .selectFrom('page')
    .select('kind')
    .where('id', '=', source)
    .executeTakeFirstOrThrow();
  return readKeys(db, kind === 'copy' ? original : source);
}

/** Sets or, with null, takes away what is expected in one part. */
export async function writeKey(
  db: Database,
  place: { page: string; school: number; part: string },
  key: AnswerKey | null,
): Promise<void> {
  if (!key) {
    await db
      .deleteFrom('answer_key')
      .where('page_id', '=', place.page)
      .where('part_id', '=', place.part)
      .execute();
    return;
  }
  await db
    .insertInto('answer_key')
    .values({
      ...{ page_id: place.page, school_id: place.school, part_id: place.part },
      body: JSON.stringify(key),
    })
    .onConflict((conflict) =>
      conflict.columns(['page_id', 'part_id']).doUpdateSet({ body: JSON.stringify(key) }),
    )
    .execute();
}
