import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { enter } from '$server/access/enter';
import { isPasswordLink, usePasswordLink } from '$server/access/own-account';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent } from './$types';

export const load = allowAnyone(
  'enter',
  async ({ params, getClientAddress }: PageServerLoadEvent, { app }) => {
    await app.limits.count('link', getClientAddress());
    if (!(await isPasswordLink(app, params.token)))
      error(404, 'This link was used already, or is older than an hour. Please ask for another.');
    return { title: 'A new password' };
  },
);

export const actions = {
  default: allowAnyone(
    'enter',
    formAction(async (event: RequestEvent, { app }) => {
      const { password } = await readForm(
        event.request,
        z.object({ password: z.string().max(1000) }),
      );
      await app.limits.count('link', event.getClientAddress());
      await enter(app, event, await usePasswordLink(app, event.params.token ?? '', password));
      redirect(303, '/');
    }),
  ),
};
