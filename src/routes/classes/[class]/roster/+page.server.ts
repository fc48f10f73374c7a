import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import { readForm, saying } from '$server/http/form';
import { readAskedInto } from '$server/roster/join-requests';
import { readRosterChanges, undoRoster } from '$server/roster/apply-roster';
import { giveFirstPasswords, resetPassword } from '$server/roster/first-passwords';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'keep the class',
  async ({ url }: PageServerLoadEvent, { app, thing }) => {
    const rows = await app.db
      .selectFrom('enrolment')
      .innerJoin('person', 'person.id', 'enrolment.person_id')
      .select(['person.id', 'given', 'family', 'sign_in_name', 'joined_at', 'left_at'])
      .select((eb) => eb('password_hash', '=', '').as('waits'))
      .where('class_id', '=', thing.id)
      .orderBy('family')
      .orderBy('given')
      .execute();
    const students = rows.map(({ joined_at, left_at, ...row }) => ({
      ...row,
      joined: joined_at.getTime(),
      left: left_at?.getTime() ?? null,
    }));
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: 'Roster' },
      ],
      klass: thing,
      students: students.filter(({ left }) => left === null),
      left: students.filter(({ left }) => left !== null),
      changes: await readRosterChanges(app.db, thing.id),
      asked: await readAskedInto(app.db, thing.id),
      hasOffice: app.office !== null,
      address: url.origin,
      now: Date.now(),
    };
  },
);

export const actions = {
  undo: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const { change } = await readForm(request, z.object({ change: z.uuid('Nothing to undo.') }));
      await undoRoster(app, grant, change);
    }),
  ),
  password: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const { student } = await readForm(
        request,
        z.object({ student: z.uuid('Nobody is named.') }),
      );
      return { passwords: await resetPassword(app, grant, student) };
    }),
  ),
  passwords: allowInClass('keep the class', async (_event: RequestEvent, { app, grant }) => ({
    passwords: await giveFirstPasswords(app.db, grant),
  })),
};
