import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { makeArchiveAgain } from '$server/archive/archives';
import { openAgain, setReadUntil, viewArchived } from '$server/closing/archive-class';
import { formAction, readForm } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:archive');
    const { id, name, title, archived } = grant.thing;
    if (!archived) redirect(303, `/classes/${id}`);
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Archive' }],
      ...(await viewArchived(app.db, grant)),
    };
  },
);

export const actions = {
  openAgain: allowInClass(
    'keep the archive',
    formAction(async (_event: RequestEvent, { app, grant }) => {
      await openAgain(app, grant);
      redirect(303, `/classes/${grant.thing.id}`);
    }),
  ),
  again: allowInClass(
    'keep the archive',
    formAction(async (_event: RequestEvent, { app, grant }) => {
      await makeArchiveAgain(app, grant);
    }),
  ),
  until: allowInClass(
    'keep the archive',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { until } = await readForm(
        request,
        z.object({ until: z.union([z.literal(''), z.iso.date('This is not a day.')]) }),
      );
      await setReadUntil(app, grant, until || null);
    }),
  ),
};
