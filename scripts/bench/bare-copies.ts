import { sql } from 'kysely';
import type { Database } from '../../src/lib/server/db/connect';
import { inTransaction } from '../../src/lib/server/db/transaction';
import { timed } from './figure';

/** A table like that of pages, with the same keys and the same references to other tables. */
export async function makeBarePage(db: Database): Promise<void> {
  await sql`create table if not exists bare_page (like page including all)`.execute(db);
  const { rows } = await sql<{ key: string }>`
    select pg_get_constraintdef(oid) as key from pg_constraint
    where conrelid = 'page'::regclass and contype = 'f'
      and not exists (select from pg_constraint where conrelid = 'bare_page'::regclass and contype = 'f')`.execute(
    db,
  );
  for (const { key } of rows) await sql.raw(`alter table bare_page add ${key}`).execute(db);
}

/** The copies of a hand-out once more, inserted with nothing around them. @returns milliseconds */
export const timeBareCopies = (
  db: Database,
  { assignment, original, classes }: { assignment: string; original: string; classes: string[] },
): Promise<number> =>
  timed(() =>
    inTransaction(db, (tx) =>
      sql`insert into bare_page (school_id, kind, title, source_id, source_version, for_id, delivery, assignment_id,
          class_id, student_id, guarded)
        select school_id, 'copy', 'bare', ${original}::uuid, 0, ${original}::uuid, 'one each', ${assignment}::uuid,
          class_id, person_id, true
        from enrolment where class_id = any(${classes}::uuid[]) and left_at is null`.execute(tx),
    ),
  );
