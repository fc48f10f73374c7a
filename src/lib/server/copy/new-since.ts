import { sql } from 'kysely';
import { Step, type StepMap } from 'prosemirror-transform';
import { changedRanges, type NewSince } from '$core/history/changed-ranges';
import { schema } from '$core/page/schema';
import { readSteps, type Connection } from '../page/page-store';

/** Up to where somebody of the staff has seen a copy, and when they looked or handed it back, in epoch milliseconds. */
interface Seen {
  since: NewSince['since'];
  version: number;
  at: number;
  viewer: string;
}

/**
 * What somebody saw of a copy when they looked last; null where they never did.
 * @param version what they say they know of it, instead of what they looked at last
 */
export async function readSeen(
  db: Connection,
  page: string,
  viewer: string,
  version: number | null = null,
): Promise<Seen | null> {
  const row = await db
    .selectFrom('event')
    .select(['version', 'at'])
    .where('page_id', '=', page)
    .where('person_id', '=', viewer)
    .where('kind', '=', 'looked')
    .$if(version !== null, (query) => query.where('version', '<=', version))
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { since: 'you looked', version: row.version, at: row.at.getTime(), viewer } : null;
}

/** How a copy was when it went back last; null where it never did. */
export async function readLastBack(
  db: Connection,
  page: string,
  viewer: string,
): Promise<Seen | null> {
  const row = await db
    .selectFrom('event')
    .select(['version', 'at'])
    .where('page_id', '=', page)
    .where('kind', '=', 'handed back')
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ? { since: 'it went back', version: row.version, at: row.at.getTime(), viewer } : null;
}

const mapOf = (body: object): StepMap => Step.fromJSON(schema, body).getMap();

/** Where a copy, at a version, was changed by others than who looks, since what they saw of it. */
export async function readNewSince(
  db: Connection,
  page: string,
  version: number,
  { since, version: seen, at, viewer }: Seen,
): Promise<NewSince> {
  const steps = await readSteps(db, page, seen, version);
  const places = changedRanges(
    steps.map(({ body, author_id }) => ({ map: mapOf(body), counts: author_id !== viewer })),
  );
  return { since, version: seen, at, places };
}

/** Where a student wrote last in a copy at a version; null where the last that was done to it is not theirs. */
export async function readLastPlace(
  db: Connection,
  page: string,
  version: number,
): Promise<number | null> {
  const { rows } = await sql<{ body: object; student: boolean }>`
    select body, person.role = 'student' as student from logged_steps(${page}, ${version - 1}, ${version}) as step
    join person on person.id = step.author_id`.execute(db);
  const [last] = rows;
  return last?.student
    ? (changedRanges([{ map: mapOf(last.body), counts: true }])[0]?.to ?? null)
    : null;
}
