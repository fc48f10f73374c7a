import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { leaveChange, offerAgain, settleAdapted } from '$server/course/adapted';
import { openEditor, renamePage } from '$server/course/open-editor';
import { AnswerKey } from '$core/marking/answer-key';
import { formAction, jsonField, readForm } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowOnPage('manage the page', (_event: PageServerLoadEvent, { app, grant }) =>
  openEditor(app, grant),
);

/** What of its original somebody has seen. */
const Settled = z.object({
  version: z.coerce.number().int().min(0),
  keys: jsonField(z.record(z.string().max(40), AnswerKey)),
});
const Title = z.object({ title: z.string().trim().min(1, 'A page needs a title.').max(300) });

export const actions = {
  settled: allowOnPage(
    'manage the page',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      await settleAdapted(app.db, grant, await readForm(request, Settled));
    }),
  ),
  leave: allowOnPage(
    'manage the page',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { change } = await readForm(request, z.object({ change: z.string().max(1_000_000) }));
      await leaveChange(app.db, grant, change);
    }),
  ),
  offer: allowOnPage(
    'manage the page',
    formAction(async (_event: RequestEvent, { app, grant }) => {
      await offerAgain(app.db, grant);
    }),
  ),
  rename: allowOnPage(
    'manage the page',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { title } = await readForm(request, Title);
      await renamePage(app.db, grant, title);
    }),
  ),
};
