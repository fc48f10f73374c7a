import { redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { enter } from '$server/access/enter';
import { KNOWN_COOKIE, signIn } from '$server/access/sign-in';
import { formAction, readForm } from '$server/http/form';
import { ownPath } from '$server/http/own-path';
import { Refusal } from '$server/page/refusal';
import { demoPeople } from '$server/school/demo-people';
import type { PageServerLoadEvent } from './$types';

export const load = allowAnyone('enter', async ({ url }: PageServerLoadEvent, { app, person }) => {
  if (person) redirect(303, '/');
  return {
    title: 'Sign in',
    people: await demoPeople(app.db),
    to: ownPath(url.searchParams.get('to') ?? '/'),
  };
});

const missing = 'Please give your name and your password.';
const SignIn = z.object({
  name: z.string().trim().min(1, missing).max(100, missing),
  password: z.string().min(1, missing).max(1000, missing),
  to: z.string().default('/'),
});

export const actions = {
  default: allowAnyone(
    'enter',
    formAction(async (event: RequestEvent, { app }) => {
      const { name, password, to } = await readForm(event.request, SignIn);
      const result = await signIn(app.db, app.limits, {
        name,
        password,
        address: event.getClientAddress(),
        known: event.cookies.get(KNOWN_COOKIE),
      });
      if ('sentence' in result) throw new Refusal(401, result.sentence, { name });
      await enter(app, event, result.person);
      redirect(303, ownPath(to));
    }),
  ),
};
