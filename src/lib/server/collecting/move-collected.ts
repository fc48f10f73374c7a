import type { z } from 'zod';
import { publishToStaff } from '../live/listeners';
import type { Using } from '../services';
import { collect, uncollect, type CollectedNow } from './collect';
import type { CollectingMove, Run } from './collecting-move';
import { cut, putTogether } from './cut';
import { putAside, sayWhose } from './decide';

type App = Using<'db' | 'news' | 'pages' | 'jobs' | 'findPage'>;
type Asked = z.infer<typeof CollectingMove>;

/** Does what was asked with collected files, and tells who else looks at them. @throws Refusal */
export async function moveCollected(
  app: App,
  grant: Run,
  asked: Asked,
): Promise<CollectedNow | null> {
  const now = await move(app, grant, asked);
  publishToStaff(app, grant.thing.class.id);
  return now;
}

async function move(app: App, grant: Run, asked: Asked): Promise<CollectedNow | null> {
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
