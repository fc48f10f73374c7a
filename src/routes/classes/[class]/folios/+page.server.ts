import { allowInClass } from '$server/access/allow';
import { viewFolios } from '$server/copy/folio';
import type { PageServerLoadEvent } from './$types';

/** The folios of a class: for its staff, and for its students what is shown to them. */
export const load = allowInClass(
  'see the folios',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:work');
    const { id, name, title } = grant.thing;
    const view = await viewFolios(app, grant);
    const to = view.isStaff ? `/classes/${id}` : `/classes/${id}/plan`;
    return {
      trail: [{ title: `${name} ${title}`, to }, { title: 'Folios' }],
      ...view,
      leads: grant.may('manage the class'),
    };
  },
);
