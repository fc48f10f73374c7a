import { error } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { readToScore, viewClassmatesCopy } from '$server/copy/classmates';
import type { PageServerLoadEvent } from './$types';

/** A classmate’s copy, to be scored by the rubric. */
export const load = allowOnPage(
  'score a classmate',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const view = await viewClassmatesCopy(app.db, grant);
    if (!view) error(409, 'This assignment is not scored by a rubric any more.');
    const others = await readToScore(app.db, grant);
    return {
      trail: [{ title: view.title }, { title: 'A classmate’s copy' }],
      page: grant.thing.id,
      ...view,
      /** All that they are to score. */
      others,
    };
  },
);
