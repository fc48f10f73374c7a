import { redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { beginOwnPage, putOwnPageAway, readWorkbook } from '$server/copy/own-pages';
import { readForm, saying } from '$server/http/form';
import type { PageServerLoadEvent } from './$types';

/** A student's own workbook in a class. */
export const load = allowInClass(
  'keep own workbook',
  async ({ depends }: PageServerLoadEvent, { app, person, thing }) => {
    depends('uncia:work');
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}/plan` },
        { title: 'My workbook' },
      ],
      ...(await readWorkbook(app, thing, person, person.id)),
      own: true,
    };
  },
);

export const actions = {
  begin: allowInClass(
    'keep own workbook',
    saying(async ({ request }: RequestEvent, { app, person, thing }) => {
      const { title } = await readForm(
        request,
        z.object({ title: z.string().trim().min(1, 'The page needs a title.').max(300) }),
      );
      const page = await beginOwnPage(app, {
        ...{ school: thing.school_id, class: thing.id, student: person.id, title },
      });
      redirect(303, `/read/${page}`);
    }),
  ),
  away: allowInClass(
    'keep own workbook',
    saying(async ({ request }: RequestEvent, { app, person }) => {
      const { page, away } = await readForm(
        request,
        z.object({ page: z.uuid('No page is named.'), away: z.stringbool() }),
      );
      await putOwnPageAway(app, page, person.id, away);
    }),
  ),
};
