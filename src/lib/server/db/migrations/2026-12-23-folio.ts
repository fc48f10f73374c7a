import { sql, type Kysely } from 'kysely';

/** What a page of a student's own is in their folio; `place` is where it stands there. Null: it is in their workbook alone. */
const statements = [
  `alter table page add column folio text check (folio in ('cover', 'hidden', 'shown')),
    add constraint folio_is_own check (folio is null or kind = 'own page')`,
  `create unique index folio_cover on page (class_id, student_id) where folio = 'cover' and away_at is null`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
