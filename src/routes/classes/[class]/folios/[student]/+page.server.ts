import { allowInClass } from '$server/access/allow';
import { viewFolio } from '$server/copy/folio';
import type { PageServerLoadEvent } from './$types';

/** One folio, as its class's staff or a classmate see it. */
export const load = allowInClass(
  'see the folios',
  async ({ params, depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:work');
    const { id, name, title } = grant.thing;
    const view = await viewFolio(app, grant, params.student);
    return {
      trail: [
        { title: `${name} ${title}`, to: view.isStaff ? `/classes/${id}` : `/classes/${id}/plan` },
        { title: 'Folios', to: `/classes/${id}/folios` },
        { title: view.student },
      ],
      ...view,
    };
  },
);
