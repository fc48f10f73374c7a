import { sql, type Kysely } from 'kysely';

/** What somebody put off on their desk, and until when; and whose scores are whose, in the order in which they were given. */
const statements = [
  `create table put_off (
    person_id uuid not null references person on delete cascade, school_id int not null references school,
    line text not null, until_at timestamptz not null, primary key (person_id, line))`,
  `create index score_by_person on score (person_id, at)`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
