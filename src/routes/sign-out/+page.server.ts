import { redirect } from '@sveltejs/kit';
import { allowAnyone } from '$server/access/allow';
import { endSession, SESSION_COOKIE } from '$server/access/session';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowAnyone('enter', (_event: PageServerLoadEvent) => redirect(303, '/'));

export const actions = {
  default: allowAnyone('enter', async ({ cookies }: RequestEvent, { app }) => {
    const token = cookies.get(SESSION_COOKIE);
    if (token) await endSession(app.db, token);
    cookies.delete(SESSION_COOKIE, { path: '/' });
    redirect(303, '/sign-in');
  }),
};
