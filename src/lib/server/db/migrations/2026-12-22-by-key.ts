import { sql, type Kysely } from 'kysely';

/** A test that marks itself: an assignment says so, and a score may hold what each part came to. */
const statements = [
  `alter table assignment add column marking text not null default 'by hand'
    check (marking in ('by hand', 'by key', 'by key, handed back'))`,
  `alter table score add column checked jsonb`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
