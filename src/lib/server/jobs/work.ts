import { sql } from 'kysely';
import { z } from 'zod';
import type { Grant } from '../access/grant';
import type { SignedIn } from '../access/session';
import type { Using } from '../services';
import { Refusal } from '../page/refusal';
import type { Database } from '../db/connect';
import { Jobs, type JobKinds } from './jobs';

/** Work that outlives a request, as the office sees it. */
export interface Work {
  id: string;
  kind: keyof JobKinds;
  state: 'waiting' | 'planned' | 'running' | 'tried again' | 'failed';
  /** How often it was tried before. */
  tries: number;
  /** Epoch milliseconds: when it failed, began, or is to begin. */
  at: number;
  /** Why it failed last. */
  fault: string;
}

const STATES = {
  created: 'waiting',
  retry: 'tried again',
  active: 'running',
  failed: 'failed',
} as const;

const Output = z
  .object({ message: z.string() })
  .or(z.object({ value: z.object({ message: z.string() }) }));

function faultOf(output: unknown): string {
  const read = Output.safeParse(output);
  if (!read.success) return '';
  return 'message' in read.data ? read.data.message : read.data.value.message;
}

/** What runs, waits, is planned for a time, or failed: what failed first, then the newest. */
export async function readWork(
  db: Database,
  { person }: Grant<'manage the school'>,
  now: number,
): Promise<Work[]> {
  const { rows } = await sql<{
    id: string;
    name: string;
    state: keyof typeof STATES;
    retry_count: number;
    at: Date;
    output: unknown;
  }>`select id, name, state, retry_count, output,
      case state when 'failed' then completed_on when 'active' then created_on else start_after end as at
    from pgboss.job where state in ('created', 'retry', 'active', 'failed') and ${ofSchool(person)}
    order by state = 'failed' desc, created_on desc limit 300`.execute(db);
  return rows.flatMap(({ id, name, state, retry_count, at, output }): Work[] => {
    const kind = Jobs.kindOf(name);
    if (!kind) return [];
    const planned = state === 'created' && at.getTime() > now;
    return [
      {
        id,
        kind,
        tries: retry_count,
        at: at.getTime(),
        fault: faultOf(output),
        state: planned ? 'planned' : STATES[state],
      },
    ];
  });
}

/** What was put down before jobs said their school is shown to the office of each. */
const ofSchool = ({ school_id }: SignedIn) =>
  sql`coalesce((data ->> 'school')::int, ${school_id}) = ${school_id}`;

/** Tries a job of the school that failed once more. */
export async function tryAgain(
  app: Using<'db' | 'jobs'>,
  { person }: Grant<'manage the school'>,
  { id, kind }: { id: string; kind: string },
): Promise<void> {
  const { rows } =
    await sql`select from pgboss.job where id = ${id} and ${ofSchool(person)}`.execute(app.db);
  if (rows.length === 0) throw new Refusal(404, 'This work is done, or not there any more.');
  await app.jobs.retry(kind, id);
}

/** Whom the mail server refused, with what it said. */
export const readMailFaults = (db: Database, school: number) =>
  db
    .selectFrom('person')
    .select(['id', 'given', 'family', 'email', 'mail_fault as fault'])
    .where('school_id', '=', school)
    .where('mail_fault', '<>', '')
    .orderBy('family')
    .limit(200)
    .execute();
