import { sql, type Kysely } from 'kysely';

const RUBRIC = `jsonb_build_array(jsonb_build_object('kind', 'rubric', 'id', new.id::text, 'school_id', new.school_id,
  'course_id', new.course_id, 'title', new.title, 'body', coalesce((
    select string_agg(words, ' ' order by place) from jsonb_array_elements(new.body -> 'criteria') with ordinality
      as criterion(body, place), lateral (select concat_ws(' ', criterion.body ->> 'title', (
        select string_agg(says, ' ') from jsonb_array_elements_text(criterion.body -> 'descriptors') says)) as words) one), '')))`;
const CODES = (
  from: string,
) => `perform find_put((select coalesce(jsonb_agg(jsonb_build_object('kind', 'code',
  'id', id::text, 'school_id', school_id, 'title', code, 'body', statement)), '[]') from ${from}))`;

/** Rubrics and codes are found, too; a note is found where what it is about was moved to. */
const statements = [
  `alter table find_entry drop constraint find_entry_kind_check`,
  `alter table find_entry add constraint find_entry_kind_check
    check (kind in ('page', 'note', 'person', 'assignment', 'comment', 'rubric', 'code'))`,
  `create function find_rubric() returns trigger language plpgsql as $$
    begin perform find_put(${RUBRIC}); return null; end $$`,
  `create trigger find_rubric after insert or update of title, body, course_id on rubric
    for each row execute function find_rubric()`,
  `select find_put(${RUBRIC}) from rubric new`,
  // A list may have thousands: they are read once a statement.
  `create function find_codes() returns trigger language plpgsql as $$
    begin ${CODES('fresh')}; return null; end $$`,
  `create trigger find_codes_made after insert on code referencing new table as fresh
    for each statement execute function find_codes()`,
  `create trigger find_codes_changed after update on code referencing new table as fresh
    for each statement execute function find_codes()`,
  `do $$ begin ${CODES('code')}; end $$`,
  `create function find_notes_moved() returns trigger language plpgsql as $$
    begin
      update find_entry set course_id = new.course_id where kind = 'note' and id in (
        select id::text from note where page_id = new.id or rubric_id = new.id);
      return null;
    end $$`,
  ...['page', 'rubric'].map(
    (table) => `create trigger find_notes_moved after update of course_id on ${table}
      for each row when (old.course_id is distinct from new.course_id) execute function find_notes_moved()`,
  ),
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
