import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { copyReading } from '$server/copy/own-pages';
import { formAction } from '$server/http/form';
import { viewPage } from '$server/page/view-page';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'read the page',
  async (_event: PageServerLoadEvent, { app, grant }) => {
    if (grant.thing.kind === 'copy') error(404, 'There is no such page here.');
    if (grant.may('manage the page')) redirect(303, `/editor/${grant.thing.id}`);
    return viewPage(app, grant);
  },
);

export const actions = {
  /** Takes a copy of what is read into the student's own workbook. */
  take: allowOnPage(
    'take a copy of the page',
    formAction(async (_event: RequestEvent, { app, grant }) =>
      redirect(303, `/read/${await copyReading(app, grant)}`),
    ),
  ),
};
