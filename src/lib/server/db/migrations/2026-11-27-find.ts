import { sql, type Kysely } from 'kysely';

/**
 * What can be found, one row a thing: its title and body as people read them, its words, and what its rights hang on. Short
 * things keep their rows by triggers; pages' texts are written by the application, some seconds behind. Every word that
 * stands anywhere is kept once, so that misspelt ones can be likened to it.
 */
const statements = [
  `create extension if not exists pg_trgm`,
  `create extension if not exists unaccent`,
  `create table find_word (word text primary key)`,
  `create index on find_word using gin (word gin_trgm_ops)`,
  `create table find_entry (
    kind text not null check (kind in ('page', 'note', 'person', 'assignment', 'comment')), id text not null,
    school_id int not null references school, class_id uuid, course_id uuid, owner_id uuid,
    title text not null, body text not null, words tsvector not null,
    page_version int not null default 0, primary key (kind, id))`,
  `create index on find_entry using gin (words)`,
  `create index on find_entry (class_id, kind)`,
  `create index on find_entry (course_id)`,
  `create index on find_entry (owner_id)`,
  `create index find_unread on find_entry (id) where page_version < 0`,
  // Rows as JSON: kind, id, school_id, class_id, course_id, owner_id, title, body, page_version.
  `create function find_put(entries jsonb) returns void language plpgsql as $$
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
      select distinct word from jsonb_populate_recordset(null::find_entry, entries) entry,
        unnest(tsvector_to_array(to_tsvector('simple', lower(unaccent(entry.title || ' ' || entry.body))))) word
      where length(word) <= 60
      on conflict do nothing;
    end $$`,
  ...[
    [
      'note',
      `'title', '', 'body', new.text, 'course_id', coalesce(new.course_id,
        (select course_id from page where id = new.page_id), (select course_id from unit where id = new.unit_id),
        (select course_id from rubric where id = new.rubric_id))`,
      'text',
    ],
    [
      'person',
      "'title', new.given || ' ' || new.family, 'body', new.called",
      'given, family, called',
    ],
    ['assignment', "'title', new.title, 'body', new.instructions", 'title, instructions'],
    [
      'comment',
      `'title', '', 'body', new.text,
        'class_id', (select class_id from thread join page on page.id = page_id where thread.id = new.thread_id),
        'owner_id', (select student_id from thread join page on page.id = page_id where thread.id = new.thread_id)`,
      null,
    ],
  ].flatMap(([table, contents, columns]) => [
    `create function find_${table}() returns trigger language plpgsql as $$
      begin
        perform find_put(jsonb_build_array(jsonb_build_object(
          'kind', '${table}', 'id', new.id::text, 'school_id', new.school_id, ${contents})));
        return null;
      end $$`,
    `create trigger find_${table} after insert ${columns ? `or update of ${columns}` : ''} on ${table}
      for each row execute function find_${table}()`,
    `select find_put(jsonb_build_array(jsonb_build_object(
      'kind', '${table}', 'id', new.id::text, 'school_id', new.school_id, ${contents}))) from ${table} new`,
  ]),
  // A new page, a new title, another place: its text is still to be read, version -1. What was found of it stays so long.
  `create function find_page() returns trigger language plpgsql as $$
    begin
      perform find_put(jsonb_build_array(jsonb_build_object('kind', 'page', 'id', new.id::text,
        'school_id', new.school_id, 'class_id', new.class_id, 'course_id', new.course_id, 'title', new.title,
        'page_version', -1, 'body', coalesce(
          (select body from find_entry where kind = 'page' and id = new.id::text), ''))));
      return null;
    end $$`,
  `create trigger find_page after insert or update of title, course_id on page
    for each row when (new.kind <> 'copy') execute function find_page()`,
  `select find_put(jsonb_build_array(jsonb_build_object('kind', 'page', 'id', id::text, 'school_id', school_id,
    'class_id', class_id, 'course_id', course_id, 'title', title, 'body', '', 'page_version', -1)))
    from page where kind <> 'copy'`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
