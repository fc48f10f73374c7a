import { randomBytes } from 'node:crypto';
import { sql } from 'kysely';
import type { Database } from '../db/connect';
import { together } from '../db/together';
import type { Connection } from '../page/page-store';
import { hashOf } from './token-hash';
import type { Role } from './table';

export interface SignedIn {
  id: string;
  school_id: number;
  role: Role;
  given: string;
  family: string;
  called: string;
}

export const SESSION_COOKIE = 'uncia';
const HOUR = 3_600_000;
/** A session ends after so long, whatever happens in it. */
const LONGEST = 14 * 24 * HOUR;
/** And after so long in which nothing was asked for. */
const IDLE = 12 * HOUR;
/** That somebody was here is noted at most so often. */
const NOTE_EVERY = 300_000;

/** The name of a session, which is no secret: only the token signs in. */
export const sessionOf = (token: string): string => hashOf(token);

/** What of a browser's own description helps its person to know it again. */
function describe(agent: string): string {
  const system = /Windows|Macintosh|CrOS|Android|iPad|iPhone|Linux/.exec(agent)?.[0] ?? '';
  const browser = /Firefox|Edg|OPR|Chrome|Safari/.exec(agent)?.[0] ?? '';
  return [browser, system].filter(Boolean).join(', ') || 'a browser';
}

/** @returns the secret for the person's cookie; the database keeps only its hash */
export async function beginSession(
  db: Database,
  person: { id: string; school_id: number },
  now: number,
  agent = '',
): Promise<{ token: string; expires: Date }> {
  const token = randomBytes(32).toString('base64url');
  const expires = new Date(now + LONGEST);
  await db
    .insertInto('session')
    .values({
      id: hashOf(token),
      school_id: person.school_id,
      person_id: person.id,
      expires_at: expires,
      last_at: new Date(now),
      browser: describe(agent),
    })
    .execute();
  await db
    .deleteFrom('session')
    .where((eb) =>
      eb.or([eb('expires_at', '<', new Date(now)), eb('last_at', '<', new Date(now - IDLE))]),
    )
    .execute();
  return { token, expires };
}

export type SessionReader = ReturnType<typeof sessionReader>;

/** Finds who is signed in with a token at a time (epoch milliseconds). A disabled account is nobody. */
export const sessionReader = (db: Database) =>
  together(async (asked: readonly { token: string; now: number }[]) => {
    const ids = asked.map(({ token }) => hashOf(token));
    const rows = await db
      .selectFrom('session')
      .innerJoin('person', 'person.id', 'session.person_id')
      .select([
        'session.id as session',
        'session.expires_at',
        'session.last_at',
        'person.id',
        'person.school_id',
        'person.role',
        'person.given',
        'person.family',
        'person.called',
      ])
      .where('session.id', '=', sql<string>`any(${ids}::text[])`)
      .where('person.disabled_at', 'is', null)
      .execute();
    const found = new Map(rows.map((row) => [row.session, row]));
    const latest = Math.max(...asked.map(({ now }) => now));
    const stale = rows.filter(({ last_at }) => latest - last_at.getTime() > NOTE_EVERY);
    if (stale.length > 0)
      await db
        .updateTable('session')
        .set({ last_at: new Date(latest) })
        .where(
          'id',
          'in',
          stale.map(({ session }) => session),
        )
        .where('last_at', '>', new Date(latest - IDLE))
        .execute();
    return ids.map((id, index): SignedIn | null => {
      const row = found.get(id);
      const now = asked[index]?.now ?? 0;
      if (!row || row.expires_at.getTime() <= now || now - row.last_at.getTime() > IDLE)
        return null;
      const { id: person, school_id, role, given, family, called } = row;
      return { id: person, school_id, role, given, family, called };
    });
  });

/** A person's sessions, the one used last first. */
export const readSessions = (db: Connection, person: string, now: number) =>
  db
    .selectFrom('session')
    .select(['id', 'browser', 'made_at', 'last_at'])
    .where('person_id', '=', person)
    .where('expires_at', '>', new Date(now))
    .where('last_at', '>', new Date(now - IDLE))
    .orderBy('last_at', 'desc')
    .execute();

/** Ends sessions of a person: one, or all but one. @returns which, so that their streams end, too */
export async function endSessions(
  db: Connection,
  person: string,
  which: { only: string } | { but: string | null },
): Promise<string[]> {
  const rows = await db
    .deleteFrom('session')
    .where('person_id', '=', person)
    .where((eb) =>
      'only' in which
        ? eb('id', '=', which.only)
        : which.but === null
          ? eb.lit(true)
          : eb('id', '<>', which.but),
    )
    .returning('id')
    .execute();
  return rows.map(({ id }) => id);
}
