import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { addSlot, describeClass, dropSlot, setStaff } from '$server/class/set-up';
import { removeClass } from '$server/class/remove-class';
import { viewSetUp } from '$server/class/view-class';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'manage the class',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    const { id, name, title } = grant.thing;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Set-up' }],
      ...(await viewSetUp(app.db, grant)),
    };
  },
);

const id = z.uuid('Something is missing here. Please open this view again.');
const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is missing.');

export const actions = {
  about: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({
          name: z.string().trim().min(1, 'What is the class called?').max(60),
          about: z.string().trim().max(2000, 'Please say it in fewer than 2000 characters.'),
        }),
      );
      await describeClass(app.db, grant, spec);
    }),
  ),
  joining: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { rule } = await readForm(
        request,
        z.object({ rule: z.enum(['open', 'coming', 'ask']) }),
      );
      await describeClass(app.db, grant, { join_rule: rule });
    }),
  ),
  staff: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ person: id, kind: z.enum(['lead', 'co-teacher', 'marker', 'no']) }),
      );
      await setStaff(app.db, grant, spec.person, spec.kind === 'no' ? null : spec.kind);
      app.news.endStreams({ people: [spec.person] });
    }),
  ),
  remove: allowInClass(
    'close the term',
    formAction(async (_event: RequestEvent, { app, grant }) => {
      await removeClass(app, grant);
      redirect(303, '/desk');
    }),
  ),
  slot: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const weekday = z.coerce.number().int().min(1).max(7);
      const slot = await readForm(request, z.object({ weekday, starts: time, ends: time }));
      await addSlot(app.db, grant, slot);
    }),
  ),
  dropSlot: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { slot } = await readForm(request, z.object({ slot: id }));
      await dropSlot(app.db, grant, slot);
    }),
  ),
};
