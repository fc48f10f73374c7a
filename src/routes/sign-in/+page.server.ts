import { fail, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { enter } from '$server/access/enter';
import { KNOWN_COOKIE, signIn } from '$server/access/sign-in';
import { readFields } from '$server/http/form';
import { ownPath } from '$server/http/own-path';
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

const SignIn = z.object({
  name: z.string().trim().min(1).max(100),
  password: z.string().min(1).max(1000),
  to: z.string().default('/'),
});

export const actions = {
  default: allowAnyone('enter', async (event: RequestEvent, { app }) => {
    const read = SignIn.safeParse(Object.fromEntries(await readFields(event.request)));
    if (!read.success)
      return fail(400, { sentence: 'Please give your name and your password.', name: '' });
    const { name, password, to } = read.data;
    const result = await signIn(app.db, app.limits, {
      name,
      password,
      address: event.getClientAddress(),
      known: event.cookies.get(KNOWN_COOKIE),
    });
    if ('sentence' in result) return fail(401, { sentence: result.sentence, name });
    await enter(app, event, result.person);
    redirect(303, ownPath(to));
  }),
};
