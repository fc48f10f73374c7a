import { sql, type Kysely } from 'kysely';

/** Where a picture stands and who sent it: who may read one of those pages, or sent it, sees it. */
const statements = [
  `create table picture_place (
    hash text not null, page_id uuid not null references page, school_id int not null references school,
    primary key (hash, page_id))`,
  `create index on picture_place (page_id)`,
  `create table picture_sender (
    hash text not null, person_id uuid not null references person, school_id int not null references school,
    primary key (hash, person_id))`,
  `create index on page (source_id) where source_id is not null`,
  `insert into picture_sender select hash, made_by, school_id from file on conflict do nothing`,
  `insert into picture_place
    select distinct shown.hash #>> '{}', shown.page_id, shown.school_id from (
      select jsonb_path_query(doc, 'lax $.** ? (@.type == "picture").attrs.file') as hash, page_id, school_id
      from snapshot where doc::text like '%"picture"%'
      union all
      select jsonb_path_query(body, 'lax $.** ? (@.type == "picture").attrs.file'), page_id, school_id
      from step where body::text like '%"picture"%') shown`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
