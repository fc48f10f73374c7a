import { sql, type Kysely } from 'kysely';

/** What an adapted original left as it was, and the keys of its original when it was last settled. */
const statements = [
  `create table adapted_left (
    page_id uuid not null references page, school_id int not null references school, key text not null)`,
  `create unique index on adapted_left (page_id, md5(key))`,
  `alter table page add base_keys jsonb`,
  `update page set base_keys = coalesce(
    (select jsonb_object_agg(part_id, body) from answer_key where page_id = page.from_id), '{}') where adapted`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
