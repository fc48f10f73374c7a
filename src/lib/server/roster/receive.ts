import type { Using } from '../services';
import { moveAlong } from '../copy/move-along';
import { followMovers, receiveJoiners } from '../handout/joiners';

/** What the job `receive` is told: who joined a class, and who came or went in it. */
export interface Received {
  class: string;
  joined: string[];
  moved: string[];
}

/** The job: who joined gets what the class's rule says, and who changed class takes along what they wrote. */
export async function receive(
  app: Using<'db' | 'memory' | 'news' | 'pages'>,
  { class: id, joined, moved }: Received,
): Promise<void> {
  const at = new Date();
  const klass = await app.db
    .selectFrom('class')
    .select(['id', 'name', 'school_id'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  // Whom it concerns hear of other classes from now on: their streams begin anew.
  app.news.endStreams({ people: moved });
  await receiveJoiners(app, klass, joined, at);
  await followMovers(app, moved, at);
  await moveAlong(app, moved);
}
