import { sql, type Kysely } from 'kysely';

/** A page can be put back as it stood, and a version of it named. */
const statements = [
  `alter table event drop constraint event_kind_check`,
  `alter table event add constraint event_kind_check check (kind in
    ('opened', 'handed in', 'taken back', 'looked', 'handed back', 'put back', 'named'))`,
  `alter table event add column of_version int`,
  `alter table event add constraint put_back_says_what check ((kind = 'put back') = (of_version is not null))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
