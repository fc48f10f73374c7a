import { sql, type Kysely } from 'kysely';

/** How much is written on a copy, from which it is told that its work went at once; and that somebody accepted that. */
const statements = [
  `alter table page add column level jsonb`,
  `create index page_lost on page (class_id) where kind = 'copy' and level -> 'loss' <> 'null'`,
  `create index page_removed on page (class_id) where kind = 'copy' and away_at is not null`,
  `alter table event drop constraint event_kind_check`,
  `alter table event add constraint event_kind_check check (kind in ('opened', 'handed in', 'taken back',
    'looked', 'handed back', 'put back', 'named', 'loss accepted'))`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
