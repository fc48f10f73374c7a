import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { viewRoster } from '$server/class/view-class';
import { readForm, formAction } from '$server/http/form';
import { undoRoster } from '$server/roster/apply-roster';
import { changeStudent, OneStudent } from '$server/roster/one-student';
import { giveFirstPasswords, resetPassword } from '$server/roster/first-passwords';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'manage the class',
  async ({ url }: PageServerLoadEvent, { app, grant }) => {
    const { id, name, title } = grant.thing;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Roster' }],
      ...(await viewRoster(app, grant)),
      address: url.origin,
    };
  },
);

export const actions = {
  undo: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { change } = await readForm(request, z.object({ change: z.uuid('Nothing to undo.') }));
      await undoRoster(app, grant, change);
    }),
  ),
  student: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      await changeStudent(app, grant, await readForm(request, OneStudent));
    }),
  ),
  password: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { student } = await readForm(
        request,
        z.object({ student: z.uuid('Nobody is named.') }),
      );
      return { passwords: await resetPassword(app, grant, student) };
    }),
  ),
  passwords: allowInClass(
    'manage the class',
    formAction(async (_event: RequestEvent, { app, grant }) => ({
      passwords: await giveFirstPasswords(app.db, grant),
    })),
  ),
};
