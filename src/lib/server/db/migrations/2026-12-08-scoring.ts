import { sql, type Kysely } from 'kysely';

/**
 * A score may be a scoring by a rubric, with the rubric as it was; and handing back says which score goes with it. What was
 * handed back before went with the last score until then.
 */
const statements = [
  `alter table score alter points drop not null, add scoring jsonb,
    add rubric_points numeric(8,2), add rubric_most numeric(8,2)`,
  `alter table event add score_id bigint references score`,
  `alter table event disable trigger event_stays`,
  `update event set score_id = (select max(score.id) from score
    where score.page_id = event.page_id and score.at <= event.at)
    where kind = 'handed back'`,
  `alter table event enable trigger event_stays`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
