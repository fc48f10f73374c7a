import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/local-time';
import { allowOnAssignment } from '$server/access/allow';
import { allow } from '$server/handout/allowances';
import { withdraw } from '$server/handout/change-assignment';
import { giveTo } from '$server/handout/joiners';
import { undoChange } from '$server/handout/undo';
import { readOwnScoringAsked } from '$server/copy/own-scoring';
import { viewAssignment } from '$server/handout/view-assignment';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnAssignment(
  'see the assignment',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:board');
    const now = Date.now();
    const { class: klass } = grant.thing;
    const assignment = await viewAssignment(app, grant, now);
    return {
      trail: [
        { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
        { title: assignment.spec.title },
      ],
      klass,
      assignment,
      now,
      mayChange: grant.may('run the assignment'),
      mayMark: grant.may('mark its copies'),
      ownScoring: await readOwnScoringAsked(app.db, {
        assignment: grant.thing.id,
        class: klass.id,
      }),
    };
  },
);

const Allowance = z.object({
  student: z.uuid(),
  kind: z.enum(['extension', 'excused', 'as for all']),
  due: z.string().default(''),
  note: z.string().trim().max(500).default(''),
});

export const actions = {
  withdraw: allowOnAssignment(
    'run the assignment',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { withdrawn } = await readForm(request, z.object({ withdrawn: z.stringbool() }));
      await withdraw(app, grant, withdrawn, new Date());
    }),
  ),
  undo: allowOnAssignment(
    'change the assignment',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { change } = await readForm(request, z.object({ change: z.uuid('Nothing to undo.') }));
      await undoChange(app, grant, { change, at: new Date() });
    }),
  ),
  give: allowOnAssignment(
    'run the assignment',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { students } = await readForm(request, z.object({ students: z.string() }));
      const people = z.array(z.uuid()).safeParse(students.split(' '));
      if (!people.success) throw new Refusal(400, 'Nobody is named.');
      await giveTo(app, grant, people.data, new Date());
    }),
  ),
  allow: allowOnAssignment(
    'run the assignment',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { student, kind, due, note } = await readForm(request, Allowance);
      const at = due ? readLocalTime(due, grant.thing.class.time_zone) : null;
      if (due && at === null) throw new Refusal(400, 'The time is not a date and time.');
      await allow(app, grant, {
        student,
        kind,
        note,
        at: new Date(),
        due: at === null ? null : new Date(at),
      });
    }),
  ),
};
