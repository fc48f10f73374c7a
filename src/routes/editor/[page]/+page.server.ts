import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readKeys } from '$server/course/answer-keys';
import { readBase, settleAdapted } from '$server/course/adapted';
import { readOwnClasses } from '$server/course/courses';
import { readPageNotes } from '$server/course/notes';
import { readForm, saying } from '$server/http/form';
import { readSetAside } from '$server/page/set-aside';
import { readHome } from '$server/page/home';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowOnPage(
  'keep the page',
  async (_event: PageServerLoadEvent, { app, person, thing }) => {
    const held = await app.pages.open(thing.id);
    const classes = await readOwnClasses(app.db, person.id);
    return {
      trail: [...(await readHome(app.db, thing)), { title: thing.title }],
      ...{ page: thing.id, title: thing.title, kind: thing.kind, version: held.version },
      doc: held.doc.toJSON() as object,
      keys: await readKeys(app.db, thing.id),
      base: await readBase(app, thing),
      notes: await readPageNotes(app.db, thing.id, person.id),
      setAside: await readSetAside(app.db, thing.id, person.id),
      classes: classes.filter((klass) => klass.course_id === thing.course_id),
      timeZone: await readTimeZone(app.db, thing.school_id),
    };
  },
);

const Title = z.object({ title: z.string().trim().min(1, 'A page needs a title.').max(300) });

export const actions = {
  settled: allowOnPage(
    'keep the page',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const shape = z.object({ version: z.coerce.number().int().min(0) });
      const { version } = await readForm(request, shape);
      await settleAdapted(app.db, thing.id, version);
    }),
  ),
  rename: allowOnPage(
    'keep the page',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { title } = await readForm(request, Title);
      await app.db.updateTable('page').set({ title }).where('id', '=', thing.id).execute();
    }),
  ),
};
