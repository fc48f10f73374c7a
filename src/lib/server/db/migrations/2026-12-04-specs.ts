import { sql, type Kysely } from 'kysely';

/** What somebody asks for is called a spec. */
const statements = [
  ...['assignment', 'hand_out', 'class_build'].map(
    (table) => `alter table ${table} rename column wish to spec`,
  ),
  ...['was', 'became'].map(
    (column) => `update assignment_change
      set ${column} = ${column} - 'wish' || jsonb_build_object('spec', ${column} -> 'wish')
      where ${column} ? 'wish'`,
  ),
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
