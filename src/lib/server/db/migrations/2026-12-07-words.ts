import { sql, type Kysely } from 'kysely';

/**
 * Words that are new to two transactions at once are written by both: with a unique key each would wait for the other's,
 * and some for each other. What reads them does not mind that a word stands there twice.
 */
const statements = [
  `alter table find_word drop constraint find_word_pkey`,
  `create index find_word_word on find_word (word)`,
  `create or replace function find_put(entries jsonb) returns void language plpgsql as $$
    begin
      insert into find_entry (kind, id, school_id, class_id, course_id, owner_id, title, body, page_version, words)
      select kind, id, school_id, class_id, course_id, owner_id, title, body, coalesce(page_version, 0),
        setweight(to_tsvector('simple', lower(unaccent(title))), 'A')
          || to_tsvector('simple', lower(unaccent(body)))
      from jsonb_populate_recordset(null::find_entry, entries)
      on conflict (kind, id) do update
        set title = excluded.title, body = excluded.body, words = excluded.words, page_version = excluded.page_version,
          class_id = excluded.class_id, course_id = excluded.course_id, owner_id = excluded.owner_id;
      insert into find_word
      select word from (
        select distinct word from jsonb_populate_recordset(null::find_entry, entries) entry,
          unnest(tsvector_to_array(to_tsvector('simple', lower(unaccent(entry.title || ' ' || entry.body))))) word
        where length(word) <= 60) said
      where not exists (select from find_word known where known.word = said.word);
    end $$`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
