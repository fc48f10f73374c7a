import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { sendPasswordLink } from '$server/access/own-account';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent } from './$types';

export const load = allowAnyone('enter', (_event: PageServerLoadEvent, { app }) => ({
  title: 'A new password',
  mails: app.settings.MAIL_URL !== undefined,
}));

export const actions = {
  default: allowAnyone(
    'enter',
    formAction(async ({ request, getClientAddress }: RequestEvent, { app }) => {
      const { name } = await readForm(
        request,
        z.object({ name: z.string().trim().min(1, 'Which name do you sign in with?').max(100) }),
      );
      await app.limits.count('link', getClientAddress());
      await sendPasswordLink(app, name);
      return { sent: true };
    }),
  ),
};
