import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import {
  addFolioPage,
  changeFolio,
  FOLIO_MOVES,
  renameOwnPage,
  viewOwnFolio,
} from '$server/copy/folio';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

/** A student's own folio in a class. */
export const load = allowInClass(
  'see own workbook',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:work');
    const { id, name, title, archived } = grant.thing;
    return {
      trail: [
        { title: `${name} ${title}`, to: archived ? '/work' : `/classes/${id}/plan` },
        { title: 'My folio' },
      ],
      ...(await viewOwnFolio(app, grant)),
      mayWrite: grant.may('manage own workbook'),
    };
  },
);

const Titled = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'The page needs a title.')
    .max(300, 'A title has at most 300 characters.'),
});
const page = z.uuid('No page is named.');

export const actions = {
  begin: allowInClass(
    'manage own workbook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { title } = await readForm(request, Titled);
      redirect(303, `/read/${await addFolioPage(app, grant, title)}`);
    }),
  ),
  change: allowInClass(
    'manage own workbook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const asked = await readForm(request, z.object({ page, move: z.enum(FOLIO_MOVES) }));
      await changeFolio(app, grant, asked.page, asked.move);
    }),
  ),
  rename: allowInClass(
    'manage own workbook',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const asked = await readForm(request, Titled.extend({ page }));
      await renameOwnPage(app, grant, asked.page, asked.title);
    }),
  ),
};
