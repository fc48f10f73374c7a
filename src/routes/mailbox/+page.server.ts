import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import {
  markRead,
  openMessage,
  readMailbox,
  readMailRule,
  setHearsHandIns,
  setMailRule,
} from '$server/message/messages';
import { formAction, readForm } from '$server/http/form';
import { readQuietHours } from '$server/school/quiet-hours';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'be signed in',
  async (_event: PageServerLoadEvent, { app, person }) => ({
    trail: [{ title: 'Mailbox' }],
    quiet: await readQuietHours(app.db, person.school_id),
    messages: await readMailbox(app.db, person.id),
    mails: await readMailRule(app.db, person.id),
    now: Date.now(),
    timeZone: await readTimeZone(app.db, person.school_id),
  }),
);

export const actions = {
  open: allowPerson(
    'be signed in',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const { message } = await readForm(request, z.object({ message: z.uuid() }));
      const link = await openMessage(app.db, person.id, message);
      redirect(303, link ?? '/mailbox');
    }),
  ),
  mails: allowPerson(
    'be signed in',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const { mails } = await readForm(
        request,
        z.object({ mails: z.enum(['gathered', 'daily', 'never']) }),
      );
      await setMailRule(app.db, person.id, mails);
    }),
  ),
  handIns: allowPerson(
    'be signed in',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const { handIns } = await readForm(request, z.object({ handIns: z.enum(['yes', 'no']) }));
      await setHearsHandIns(app.db, person.id, handIns === 'yes');
    }),
  ),
  read: allowPerson(
    'be signed in',
    formAction(async (_event: RequestEvent, { app, person }) => {
      await markRead(app.db, person.id);
    }),
  ),
};
