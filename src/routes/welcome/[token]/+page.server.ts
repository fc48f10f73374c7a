import { readFields } from '$server/http/form';
import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowAnyone } from '$server/access/allow';
import { beginSession, SESSION_COOKIE } from '$server/access/session';
import { Refusal } from '$server/page/refusal';
import { isSetUpLink, useSetUpLink } from '$server/school/first';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowAnyone('enter', async ({ params }: PageServerLoadEvent, { app }) => {
  if (!(await isSetUpLink(app.db, params.token)))
    error(
      404,
      'This link was used already, or a newer one was made. Please sign in, or start Uncia again for a new link.',
    );
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
  password: z.string().min(10, 'A password has at least 10 signs.').max(1000),
});

export const actions = {
  default: allowAnyone(
    'enter',
    async ({ request, params, cookies, url }: RequestEvent, { app }) => {
      const given = Object.fromEntries(await readFields(request));
      const read = First.safeParse(given);
      if (!read.success)
        return fail(400, { sentence: read.error.issues.map((issue) => issue.message).join(' ') });
      try {
        const person = await useSetUpLink(app.db, params.token, read.data);
        const { token, expires } = await beginSession(app.db, person, Date.now());
        const secure = url.protocol === 'https:';
        cookies.set(SESSION_COOKIE, token, {
          path: '/',
          httpOnly: true,
          sameSite: 'lax',
          secure,
          expires,
        });
      } catch (thrown) {
        if (thrown instanceof Refusal) return fail(thrown.status, { sentence: thrown.message });
        throw thrown;
      }
      redirect(303, '/school');
    },
  ),
};
