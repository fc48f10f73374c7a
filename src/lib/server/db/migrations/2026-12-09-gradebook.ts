import { sql, type Kysely } from 'kysely';

/** How a class counts its points, and how each piece of work counts there. */
const statements = [
  `alter table class add grade_rules jsonb, add grade_rules_version int not null default 0`,
  `alter table assignment_class add counting text not null default 'yes'
    check (counting in ('yes', 'extra', 'no'))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
