import { sql } from 'kysely';
import { markingPace } from '$core/desk/marking-pace';
import type { Connection } from '../page/page-store';

/** So many of somebody's last scores say how fast they mark. */
const SCORES = 300;

/** How long a teacher needs to mark a copy, in milliseconds; null where too little is known. */
export async function readPace(db: Connection, teacher: string): Promise<number | null> {
  const { rows } = await sql<{ copy: string; at: Date }>`
    select page_id as copy, at from score where person_id = ${teacher} order by at desc limit ${SCORES}`.execute(
    db,
  );
  return markingPace(rows.reverse().map(({ copy, at }) => ({ copy, at: at.getTime() })));
}
