import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { archiveClass } from '$server/closing/archive-class';
import { storeUnits } from '$server/closing/store-units';
import { viewClosing } from '$server/closing/view-closing';
import { dropDraft } from '$server/handout/drafts';
import { formAction, readFields, readForm } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'close the term',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:closing');
    const { id, name, title } = grant.thing;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Close the term' }],
      ...(await viewClosing(app.db, grant)),
    };
  },
);

const id = z.uuid('Something is missing here. Please open this view again.');

export const actions = {
  /** Moves chosen units into the cupboard, or out of it. */
  store: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const fields = await readFields(request);
      const units = z.array(id).safeParse(fields.getAll('unit'));
      if (!units.success || units.data.length === 0)
        throw new Refusal(400, 'Choose the units that are to be moved.');
      await storeUnits(app, grant, units.data, fields.get('stored') === 'true');
    }),
  ),
  dropDraft: allowInClass(
    'hand out',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { draft } = await readForm(request, z.object({ draft: id }));
      await dropDraft(app.db, grant, draft);
    }),
  ),
  archive: allowInClass(
    'close the term',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { until } = await readForm(
        request,
        z.object({
          until: z.union([
            z.literal(''),
            z.iso.date('Until which day do students read their work?'),
          ]),
        }),
      );
      await archiveClass(app, grant, until || null);
      redirect(303, `/classes/${grant.thing.id}/archive`);
    }),
  ),
};
