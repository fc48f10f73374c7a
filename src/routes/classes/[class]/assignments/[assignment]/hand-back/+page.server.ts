import type { ServerLoadEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { viewHandBackSheets } from '$server/copy/hand-back-sheets';
import { readPointsOf } from '$server/copy/scorings';
import { readTimeZone } from '$server/school/time-zone';

/** Copies as they go back, to be looked at first, printed, or handed back together. */
export const load = allowOnAssignment(
  'mark its copies',
  async ({ depends }: ServerLoadEvent, { app, grant }) => {
    depends('uncia:hand-back');
    const { class: klass, id, title, school_id } = grant.thing;
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title, to: `/classes/${klass.id}/assignments/${id}` },
        { title: 'Hand back' },
      ],
      klass,
      title,
      assignment: id,
      most: await readPointsOf(app.db, id),
      sheets: await viewHandBackSheets(app, grant),
      timeZone: await readTimeZone(app.db, school_id),
      now: Date.now(),
    };
  },
);
