import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/lessons';
import { allowInClass } from '$server/access/allow';
import { may } from '$server/access/table';
import { allow } from '$server/handout/allowances';
import { withdraw } from '$server/handout/change-assignment';
import { giveMissing } from '$server/handout/joiners';
import { checkAssignment } from '$server/handout/rights';
import { undoChange } from '$server/handout/undo';
import { assignmentIn, viewAssignment } from '$server/handout/view-assignment';
import { readForm, saying } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ params, depends }: PageServerLoadEvent, { app, person, thing, relation }) => {
    depends('uncia:board');
    const id = await assignmentIn(app.db, params.assignment, thing.id);
    const now = Date.now();
    const assignment = await viewAssignment(app, id, thing, person, now);
    const mayChange = may('hand out', relation);
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: assignment.wish.title },
      ],
      klass: thing,
      assignment,
      mayChange,
      now,
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
  withdraw: allowInClass(
    'hand out',
    saying(async ({ request, params }: RequestEvent, { app, thing }) => {
      const assignment = await assignmentIn(app.db, params.assignment, thing.id);
      const { withdrawn } = await readForm(request, z.object({ withdrawn: z.stringbool() }));
      await withdraw(app, assignment, thing.id, withdrawn, new Date());
    }),
  ),
  undo: allowInClass(
    'hand out',
    saying(async ({ request, params }: RequestEvent, { app, thing, person }) => {
      const assignment = await assignmentIn(app.db, params.assignment, thing.id);
      const { change } = await readForm(request, z.object({ change: z.uuid('Nothing to undo.') }));
      await checkAssignment(app, person.id, assignment);
      await undoChange(app, { assignment, change, by: person.id, at: new Date() });
    }),
  ),
  give: allowInClass(
    'hand out',
    saying(async ({ request, params }: RequestEvent, { app, thing }) => {
      const assignment = await assignmentIn(app.db, params.assignment, thing.id);
      const { students } = await readForm(request, z.object({ students: z.string() }));
      const people = z.array(z.uuid()).safeParse(students.split(' '));
      if (!people.success) throw new Refusal(400, 'Nobody is named.');
      await giveMissing(app, assignment, new Set(people.data), new Date());
    }),
  ),
  allow: allowInClass(
    'hand out',
    saying(async ({ request, params }: RequestEvent, { app, thing, person }) => {
      const assignment = await assignmentIn(app.db, params.assignment, thing.id);
      const { student, kind, due, note } = await readForm(request, Allowance);
      const at = due ? readLocalTime(due, thing.time_zone) : null;
      if (due && at === null) throw new Refusal(400, 'The time is not a date and time.');
      await allow(app, {
        ...{ assignment, class: thing.id, student, kind, note, by: person.id, at: new Date() },
        due: at === null ? null : new Date(at),
      });
    }),
  ),
};
