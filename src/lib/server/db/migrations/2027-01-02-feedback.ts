import { sql, type Kysely } from 'kysely';

const statements = [
  // An edit that somebody offers: where it stands at a version of the page, and what it says, in the proposer's words.
  `create table proposal (
    id uuid primary key default gen_random_uuid(),
    school_id int not null references school,
    page_id uuid not null references page,
    person_id uuid not null references person,
    at timestamptz not null default now(),
    version int not null,
    offer jsonb not null,
    kind text not null,
    was text not null,
    becomes text not null,
    kept_back boolean not null
  )`,
  `create index on proposal (page_id, at)`,
  // What became of it. One that was taken and undone stands anew, on the page as it is then.
  `create table proposal_decision (
    id bigint generated always as identity primary key,
    school_id int not null references school,
    proposal_id uuid not null references proposal,
    person_id uuid not null references person,
    at timestamptz not null default now(),
    kind text not null check (kind in ('taken', 'left', 'withdrawn', 'opened again', 'undone')),
    first_version int,
    version int,
    offer jsonb,
    check ((kind in ('taken', 'undone')) = (version is not null and first_version is not null)),
    check ((kind = 'undone') = (offer is not null))
  )`,
  `create index on proposal_decision (proposal_id, id)`,
  // Feedback that goes back with the copy, and talk among the staff.
  `alter table comment add column kept_back boolean not null default false`,
  `alter table thread add column staff_only boolean not null default false`,
  `alter table assignment_class add column feedback_waits boolean not null default false`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of statements) await sql.raw(statement).execute(db);
}
