import type { z } from 'zod';
import type { Using } from '../services';
import { collect, uncollect, type CollectedNow } from './collect';
import type { CollectingMove, Run } from './collecting-move';
import { cut, putTogether } from './cut';
import { putAside, sayWhose } from './decide';

/** Does what was asked with collected files. @throws Refusal */
export async function moveCollected(
  app: Using<'db' | 'news' | 'pages' | 'jobs' | 'findPage'>,
  grant: Run,
  asked: z.infer<typeof CollectingMove>,
): Promise<CollectedNow | null> {
  switch (asked.move) {
    case 'say whose':
      await sayWhose(app, grant, asked);
      return null;
    case 'put aside':
      await putAside(app, grant, asked);
      return null;
    case 'put together':
      await putTogether(app, grant, asked);
      return null;
    case 'cut':
      await cut(app, grant, asked);
      return null;
    case 'undo':
      await uncollect(app, grant, asked);
      return null;
    case 'collect':
      return collect(app, grant, asked);
  }
}
