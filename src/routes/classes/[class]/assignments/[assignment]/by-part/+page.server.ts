import type { ServerLoadEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { viewPiles } from '$server/copy/part-piles';
import { readFeedbackWaits } from '$server/copy/feedback-waits';

/** The copies of an assignment part by part: the answers to one of its parts in piles. */
export const load = allowOnAssignment(
  'mark its copies',
  async ({ depends, url }: ServerLoadEvent, { app, grant }) => {
    depends('uncia:piles');
    const { class: klass, id } = grant.thing;
    const asked = {
      page: url.searchParams.get('page'),
      part: url.searchParams.get('part'),
      all: url.searchParams.has('all'),
    };
    const view = await viewPiles(app, grant, asked);
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title: view.title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Part by part' },
      ],
      klass,
      assignment: id,
      all: asked.all,
      feedbackWaits: await readFeedbackWaits(app.db, id, klass.id),
      now: Date.now(),
      ...view,
    };
  },
);
