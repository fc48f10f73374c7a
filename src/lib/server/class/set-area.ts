import type { Grant } from '../access/grant';
import type { Using } from '../services';
import type { Area } from '../db/schema';
import { publishToClasses } from '../live/listeners';

/** Puts a page of a class where others see it, or only the staff. What it held in the cupboard stays the staff's. */
export async function setArea(
  app: Using<'db' | 'news'>,
  { thing }: Grant<'manage the class'>,
  page: string,
  area: Exclude<Area, 'welcome'>,
): Promise<void> {
  await app.db
    .updateTable('page')
    .set((eb) => ({
      area,
      seen_from: eb
        .case()
        .when('area', '=', 'cupboard')
        .then(eb.ref('version'))
        .else(eb.ref('seen_from'))
        .end(),
    }))
    .where('id', '=', page)
    .where('class_id', '=', thing.id)
    .where('kind', '=', 'class page')
    .where('area', '<>', 'welcome')
    .execute();
  publishToClasses(app, [thing.id]);
}
