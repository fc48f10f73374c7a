import { allowOnPage } from '$server/access/allow';
import { viewOwnCopy } from '$server/copy/view-copy';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'see own copy',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const view = await viewOwnCopy(app, grant);
    const { class: klass, course, title } = view.standing.assignment;
    return { trail: [{ title: `${klass} ${course}` }, { title }], ...view };
  },
);
