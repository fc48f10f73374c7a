import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { changePassword } from '$server/access/own-account';
import { endSessions, readSessions, SESSION_COOKIE, sessionOf } from '$server/access/session';
import { readForm, formAction } from '$server/http/form';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

const ownSession = ({ cookies }: Pick<RequestEvent, 'cookies'>) =>
  sessionOf(cookies.get(SESSION_COOKIE) ?? '');

export const load = allowPerson(
  'be signed in',
  async (event: PageServerLoadEvent, { app, person }) => {
    const now = Date.now();
    const here = ownSession(event);
    const sessions = await readSessions(app.db, person.id, now);
    return {
      trail: [{ title: 'Account' }],
      sessions: sessions.map(({ id, browser, made_at, last_at }) => ({
        id,
        browser,
        here: id === here,
        began: made_at.getTime(),
        last: last_at.getTime(),
      })),
      now,
      timeZone: await readTimeZone(app.db, person.school_id),
    };
  },
);

export const actions = {
  password: allowPerson(
    'be signed in',
    formAction(async (event: RequestEvent, { app, person }) => {
      const spec = await readForm(
        event.request,
        z.object({ old: z.string().max(1000), password: z.string().max(1000) }),
      );
      await changePassword(app, person, ownSession(event), spec);
      return { says: 'Your password is changed. Everywhere else you are signed out.' };
    }),
  ),
  end: allowPerson(
    'be signed in',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const { session } = await readForm(request, z.object({ session: z.string().max(64) }));
      app.news.endStreams({
        sessions: await endSessions(app.db, person.id, { only: session }),
      });
      return { says: 'That session is ended.' };
    }),
  ),
  endOthers: allowPerson(
    'be signed in',
    formAction(async (event: RequestEvent, { app, person }) => {
      app.news.endStreams({
        sessions: await endSessions(app.db, person.id, { but: ownSession(event) }),
      });
      return { says: 'Everywhere else you are signed out.' };
    }),
  ),
};
