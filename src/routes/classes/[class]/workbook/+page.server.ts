import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { beginTakeHome, readTakeHome } from '$server/archive/archives';
import { beginOwnPage, putOwnPageAway } from '$server/copy/own-pages';
import { viewOwnWorkbook } from '$server/copy/workbook';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

/** A student's own workbook in a class. */
export const load = allowInClass(
  'see own workbook',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:work');
    const { id, name, title, archived } = grant.thing;
    return {
      trail: [
        { title: `${name} ${title}`, to: archived ? '/work' : `/classes/${id}/plan` },
        { title: 'My workbook' },
      ],
      ...(await viewOwnWorkbook(app, grant)),
      own: true,
      takeHome: await readTakeHome(app.db, grant),
      mayWrite: grant.may('manage own workbook'),
    };
  },
);

export const actions = {
  begin: allowInClass(
    'manage own workbook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { title } = await readForm(
        request,
        z.object({ title: z.string().trim().min(1, 'The page needs a title.').max(300) }),
      );
      redirect(303, `/read/${await beginOwnPage(app, grant, title)}`);
    }),
  ),
  takeHome: allowInClass(
    'see own workbook',
    formAction(async (_event: RequestEvent, { app, grant }) => beginTakeHome(app, grant)),
  ),
  away: allowInClass(
    'manage own workbook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { page, away } = await readForm(
        request,
        z.object({ page: z.uuid('No page is named.'), away: z.stringbool() }),
      );
      await putOwnPageAway(app, grant, page, away);
    }),
  ),
};
