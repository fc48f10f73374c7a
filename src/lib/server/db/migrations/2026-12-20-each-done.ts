import { sql, type Kysely } from 'kysely';

/** Of a page that a class shares: one student hands it in for all, or each says *done*. */
const statements = [
  `alter table assignment add column hand_in text not null default 'for all' check (hand_in in ('for all', 'each'))`,
  `alter table event drop constraint event_kind_check`,
  `alter table event add constraint event_kind_check check (kind in ('opened', 'handed in', 'taken back', 'said done',
    'took done back', 'looked', 'handed back', 'put back', 'named', 'loss accepted'))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
