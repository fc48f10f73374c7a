import { sql, type Kysely } from 'kysely';

/**
 * Messages and changes are facts. What was said before stays said; of what was handed out the due time that stands is known.
 */
const statements = [
  `alter table message add fact jsonb`,
  `update message set fact = jsonb_build_object('kind', 'sentence', 'subject', subject, 'text', text)`,
  `update message set fact = jsonb_build_object('kind', 'handed out', 'assignment', assignment.id,
      'title', assignment.title, 'class', class.name, 'due', floor(extract(epoch from handed.due_at) * 1000))
    from assignment join assignment_class handed on handed.assignment_id = assignment.id
    join class on class.id = handed.class_id join enrolment on enrolment.class_id = class.id
    where message.cause = 'handed out ' || assignment.id and enrolment.person_id = message.person_id`,
  `alter table message alter fact set not null, drop subject, drop text`,
  `alter table assignment_change rename says to facts`,
  `update assignment_change set facts = coalesce((
    select jsonb_agg(jsonb_build_object('kind', 'sentence', 'text', text)) from jsonb_array_elements_text(facts) as text), '[]')`,
  `create index on page (assignment_id, class_id)`,
  `drop index page_assignment_id_idx`,
  `create index on message ((fact ->> 'assignment')) where fact ->> 'assignment' is not null`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
