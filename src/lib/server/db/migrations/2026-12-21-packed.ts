import { sql, type Kysely } from 'kysely';

/**
 * Steps before a snapshot lie packed in one row, which the disk keeps compressed: who, when and what of each stays as it
 * was. `logged_steps` and `step_writer` read both. A row of `step` goes only once it lies in a pack.
 */
const statements = [
  `create table step_pack (
    page_id uuid not null references page, first int not null, last int not null check (last >= first),
    school_id int not null,
    writers jsonb not null, -- [client, author, highest number of its own]
    steps jsonb not null,   -- of each version: [index in writers, number, microseconds since 1970, body]
    primary key (page_id, last))`,
  // Rows come and go here, whatever the size of the table: what they leave is taken back by number, not by share.
  `alter table step set (autovacuum_vacuum_scale_factor = 0, autovacuum_vacuum_threshold = 2000)`,
  `create trigger step_pack_stays before update or delete on step_pack for each row execute function facts_stay()`,
  `drop trigger step_stays on step`,
  `create trigger step_stays before update on step for each row execute function facts_stay()`,
  `create function step_lies_in_pack() returns trigger language plpgsql as $$ begin
    if not exists (select from step_pack
        where page_id = old.page_id and last >= old.version and first <= old.version) then
      raise exception 'rows of step are only ever added, or packed';
    end if;
    return old;
  end $$`,
  `create trigger step_goes before delete on step for each row execute function step_lies_in_pack()`,
  `create function logged_steps(of_page uuid, after int, up_to int)
    returns table (page_id uuid, version int, author_id uuid, at timestamptz, client text, client_no int, body jsonb)
    language sql stable as $$
    select page_id, version, author_id, at, client, client_no, body from step
    where page_id = of_page and version > after and version <= up_to
    union all
    select page_id, (first + n - 1)::int, (writer ->> 1)::uuid,
      timestamptz 'epoch' + (one ->> 2)::bigint * interval '1 microsecond', writer ->> 0, (one ->> 1)::int, one -> 3
    from step_pack cross join lateral jsonb_array_elements(steps) with ordinality as unpacked(one, n)
    cross join lateral (select writers -> (one ->> 0)::int as writer) who
    where page_id = of_page and last > after and first <= up_to and first + n - 1 > after and first + n - 1 <= up_to
  $$`,
  `create view step_writer as
    select page_id, author_id, client, client_no from step
    union all
    select page_id, (writer ->> 1)::uuid, writer ->> 0, (writer ->> 2)::int
    from step_pack cross join lateral jsonb_array_elements(writers) as unpacked(writer)`,
  // Two statements: the rows go after the pack is there to be seen.
  `create function pack_steps(of_page uuid) returns void language plpgsql as $$ begin
    insert into step_pack (page_id, first, last, school_id, writers, steps)
    with placed as (
      select version, school_id, author_id, at, client, client_no, body, ends
      from step cross join lateral (select min(snapshot.version) as ends from snapshot
        where snapshot.page_id = step.page_id and snapshot.version >= step.version) next_kept
      where page_id = of_page and ends is not null),
    writer as (
      select ends, client, author_id, max(client_no) as highest,
        row_number() over (partition by ends order by min(version)) - 1 as n
      from placed group by ends, client, author_id)
    select of_page, min(version), max(version), min(school_id),
      (select jsonb_agg(jsonb_build_array(client, author_id, highest) order by n) from writer
        where writer.ends = placed.ends),
      jsonb_agg(jsonb_build_array(n, client_no, (extract(epoch from at) * 1000000)::bigint, body) order by version)
    from placed join writer using (ends, client, author_id) group by ends;
    delete from step where page_id = of_page and exists (select from step_pack
      where step_pack.page_id = step.page_id and last >= version and first <= version);
  end $$`,
  `select pack_steps(id) from page where version > 0`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
