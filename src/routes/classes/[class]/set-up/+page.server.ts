import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { readStaff } from '$server/class/plan';
import { addSlot, dropSlot, readSlots, setStaff } from '$server/class/set-up';
import { readColleagues } from '$server/course/courses';
import { readForm, saying } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'keep the class',
  async (_event: PageServerLoadEvent, { app, person, thing }) => {
    const { about, join_rule } = await app.db
      .selectFrom('class')
      .select(['about', 'join_rule'])
      .where('id', '=', thing.id)
      .executeTakeFirstOrThrow();
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: 'Set-up' },
      ],
      klass: thing,
      about,
      joinRule: join_rule,
      staff: await readStaff(app.db, thing.id),
      colleagues: await readColleagues(app.db, person),
      slots: await readSlots(app.db, thing.id),
    };
  },
);

const id = z.uuid('Something is missing here. Please open this view again.');
const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is missing.');

export const actions = {
  about: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(
        request,
        z.object({
          name: z.string().trim().min(1, 'What is the class called?').max(60),
          about: z.string().trim().max(2000, 'Please say it in fewer than 2000 signs.'),
        }),
      );
      await app.db.updateTable('class').set(wish).where('id', '=', thing.id).execute();
    }),
  ),
  joining: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { rule } = await readForm(
        request,
        z.object({ rule: z.enum(['open', 'coming', 'ask']) }),
      );
      await app.db
        .updateTable('class')
        .set({ join_rule: rule })
        .where('id', '=', thing.id)
        .execute();
    }),
  ),
  staff: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const wish = await readForm(
        request,
        z.object({ person: id, kind: z.enum(['lead', 'co-teacher', 'marker', 'no']) }),
      );
      await setStaff(app.db, grant, wish.person, wish.kind === 'no' ? null : wish.kind);
      app.news.endStreams({ people: [wish.person] });
    }),
  ),
  slot: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const weekday = z.coerce.number().int().min(1).max(7);
      const slot = await readForm(request, z.object({ weekday, starts: time, ends: time }));
      await addSlot(app.db, thing, slot);
    }),
  ),
  dropSlot: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { slot } = await readForm(request, z.object({ slot: id }));
      await dropSlot(app.db, thing.id, slot);
    }),
  ),
};
