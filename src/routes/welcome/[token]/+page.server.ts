import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { enter } from '$server/access/enter';
import { checkPassword } from '$server/access/password';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import { isSetUpLink, useSetUpLink } from '$server/school/first';
import type { PageServerLoadEvent } from './$types';

const NO_LINK =
  'This link was used already, is older than a week, or a newer one was made. Please sign in, or start Uncia again for a new link.';

export const load = allowAnyone('enter', async ({ params }: PageServerLoadEvent, { app }) => {
  if (!(await isSetUpLink(app.db, params.token))) error(404, NO_LINK);
  return { title: 'Welcome' };
});

const First = z.object({
  school: z.string().trim().min(1, 'What is the school called?').max(200),
  given: z.string().trim().min(1, 'Your given name is missing.').max(100),
  family: z.string().trim().min(1, 'Your family name is missing.').max(100),
  signInName: z
    .string()
    .trim()
    .toLowerCase()
    .regex(/^[a-z0-9._-]{3,60}$/, 'A sign-in name has 3 to 60 letters, digits, dots or dashes.'),
  password: z.string(),
});

export const actions = {
  default: allowAnyone(
    'enter',
    formAction(async (event: RequestEvent, { app }) => {
      // Looked up before anything is hashed: a link that leads nowhere costs nothing.
      await app.limits.count('link', event.getClientAddress());
      if (!(await isSetUpLink(app.db, event.params.token ?? ''))) throw new Refusal(404, NO_LINK);
      const first = await readForm(event.request, First);
      const { signInName: sign_in_name, given, family } = first;
      checkPassword(first.password, { sign_in_name, given, family });
      await enter(app, event, await useSetUpLink(app.db, event.params.token ?? '', first));
      redirect(303, '/school');
    }),
  ),
};
