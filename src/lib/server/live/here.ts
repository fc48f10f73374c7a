import { z } from 'zod';
import type { Grant } from '../access/grant';
import { SHARERS } from '../copy/holders';
import type { Using } from '../services';
import { placesThatHear, studentsWhoHear } from './listeners';

/** What somebody says of themselves in a page. */
export const Here = z.object({
  here: z.boolean(),
  client: z.string().regex(/^[\w-]{8,40}$/),
  cursor: z.object({ at: z.int().min(0), version: z.int().min(0) }).nullable(),
});
type Here = z.infer<typeof Here>;

/** Tells those who are in a page with somebody that they came, are still there, or went. One student's own page is theirs. */
export async function tellHere(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'write the page'>,
  { here, client, cursor }: Here,
): Promise<void> {
  if (thing.student_id !== null) return;
  const row = await app.db
    .selectFrom('page')
    .select(['student_id', 'class_id', 'course_id', 'area', SHARERS.as('sharers')])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  app.news.publish({
    news: {
      kind: 'here',
      page: thing.id,
      person: person.id,
      name: person.called || `${person.given} ${person.family}`,
      here,
      client,
      cursor,
    },
    places: placesThatHear(row),
    // What students only read they are not in.
    ...(row.area === 'shelf' ? {} : studentsWhoHear(row)),
  });
}
