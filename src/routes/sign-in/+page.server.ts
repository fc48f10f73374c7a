import { readFields } from '$server/http/form';
import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { beginSession, SESSION_COOKIE, signIn } from '$server/access/session';
import { demoPeople } from '$server/school/demo-people';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowAnyone('enter', async ({ url }: PageServerLoadEvent, { app, person }) => {
  if (person) redirect(303, '/');
  return {
    title: 'Sign in',
    people: await demoPeople(app.db),
    to: url.searchParams.get('to') ?? '/',
  };
});

const SignIn = z.object({
  name: z.string().trim().min(1).max(100),
  password: z.string().min(1).max(1000),
  to: z.string().default('/'),
});

/** Only ways within Uncia: "//elsewhere" is another host. */
const isWithin = (to: string) => /^\/(?![/\\])/.test(to);

export const actions = {
  default: allowAnyone(
    'enter',
    async ({ request, cookies, url, getClientAddress }: RequestEvent, { app }) => {
      const read = SignIn.safeParse(Object.fromEntries(await readFields(request)));
      if (!read.success)
        return fail(400, { sentence: 'Please give your name and your password.', name: '' });
      const { name, password, to } = read.data;
      const result = await signIn(app.db, name, password, getClientAddress(), Date.now());
      if ('sentence' in result) return fail(401, { sentence: result.sentence, name });
      const { token, expires } = await beginSession(app.db, result.person, Date.now());
      const secure = url.protocol === 'https:';
      cookies.set(SESSION_COOKIE, token, {
        path: '/',
        httpOnly: true,
        sameSite: 'lax',
        secure,
        expires,
      });
      redirect(303, isWithin(to) ? to : '/');
    },
  ),
};
