import { sql, type Kysely } from 'kysely';

/** Comments on a criterion of the rubric, and comments with a picture or with sound. */
const statements = [
  `alter table thread add column criterion jsonb`,
  `alter table comment add column upload_id uuid references upload`,
  `create unique index on comment (upload_id) where upload_id is not null`,
  `alter table upload add column said boolean not null default false`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
