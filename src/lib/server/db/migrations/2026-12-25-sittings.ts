import { sql, type Kysely } from 'kysely';

/**
 * The sittings of each person on each page, kept for speed beside the log: whoever adds steps, by whatever way, extends the
 * last one or begins another. The same rule as `core/history/sittings`, by which they can be made again.
 */
const PAUSE = `interval '10 minutes'`;
const statements = [
  `create table sitting (
    page_id uuid not null references page on delete cascade, person_id uuid not null references person,
    first int not null, last int not null, school_id int not null,
    begun_at timestamptz not null, ended_at timestamptz not null, steps int not null,
    primary key (page_id, person_id, first))`,
  // One stretch after the other, each found by its key: of so few rows a plan for many would read the whole table.
  `create function keep_sittings() returns trigger language plpgsql as $$
  declare stretch record; begin
    for stretch in
      with made as (
        select *, at - lag(at) over own > ${PAUSE} as pauses from written
        window own as (partition by page_id, author_id order by version)),
      placed as (
        select *, count(*) filter (where pauses) over (partition by page_id, author_id order by version) as n from made)
      select page_id, author_id, school_id, min(version) as first, max(version) as last,
        min(at) as begun, max(at) as ended, count(*)::int as steps
      from placed group by page_id, author_id, school_id, n order by page_id, author_id, n
    loop
      update sitting set last = stretch.last, ended_at = stretch.ended, steps = sitting.steps + stretch.steps
      where page_id = stretch.page_id and person_id = stretch.author_id
        and first = (select first from sitting known
          where known.page_id = stretch.page_id and known.person_id = stretch.author_id
          order by first desc limit 1)
        and stretch.begun - ended_at <= ${PAUSE};
      if not found then
        insert into sitting (page_id, person_id, first, last, school_id, begun_at, ended_at, steps)
        values (stretch.page_id, stretch.author_id, stretch.first, stretch.last, stretch.school_id,
          stretch.begun, stretch.ended, stretch.steps);
      end if;
    end loop;
    return null;
  end $$`,
  `create trigger step_keeps_sittings after insert on step referencing new table as written
    for each statement execute function keep_sittings()`,
  `with made as (
      select page.id as page_id, page.school_id, author_id, at, step.version,
        at - lag(at) over (partition by page.id, author_id order by step.version) > ${PAUSE} as pauses
      from page cross join lateral logged_steps(page.id, 0, page.version) as step where page.version > 0),
    placed as (
      select *, count(*) filter (where pauses) over (partition by page_id, author_id order by version) as n from made)
    insert into sitting (page_id, person_id, first, last, school_id, begun_at, ended_at, steps)
    select page_id, author_id, min(version), max(version), school_id, min(at), max(at), count(*)
    from placed group by page_id, author_id, school_id, n`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
