import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInClass } from '$server/access/allow';
import type { Relation } from '$server/access/table';
import { readStudents } from '$server/class/board';
import { readCopies } from '$server/copy/facts';
import { readOwnCopy } from '$server/copy/own-work';
import { beginOwnPage, putOwnPageAway, readOwnPages } from '$server/copy/own-pages';
import { readUnits } from '$server/course/units';
import { readForm, saying } from '$server/http/form';
import type { PageServerLoadEvent } from './$types';

/** Staff see every student's workbook, a student her own. */
function mayOpen(relation: Relation, person: string, student: string): void {
  if (relation === 'student' && person !== student)
    error(404, 'There is no such workbook here, or it is not yours to see.');
}

export const load = allowInClass(
  'see the plan',
  async ({ params, depends }: PageServerLoadEvent, { app, person, thing, relation }) => {
    depends('uncia:work');
    mayOpen(relation, person.id, params.student);
    const student = (await readStudents(app.db, thing.id)).find(({ id }) => id === params.student);
    if (!student) error(404, 'This student is not in the class.');
    const own = relation === 'student';
    const titles = await app.db
      .selectFrom('page')
      .innerJoin('assignment_class', (join) =>
        join
          .onRef('assignment_class.assignment_id', '=', 'page.assignment_id')
          .onRef('assignment_class.class_id', '=', 'page.class_id'),
      )
      .select(['page.id', 'page.title', 'assignment_class.unit_id as unit'])
      .where('page.class_id', '=', thing.id)
      .where('page.kind', '=', 'copy')
      .execute();
    const copies = (await readCopies(app.db, { student: student.id }, person.id)).filter(
      (copy) => copy.class === thing.id,
    );
    return {
      trail: [
        {
          title: `${thing.name} ${thing.title}`,
          to: own ? `/classes/${thing.id}/plan` : `/classes/${thing.id}`,
        },
        { title: own ? 'My workbook' : `${student.given} ${student.family}` },
      ],
      klass: thing,
      student,
      own,
      units: await readUnits(app.db, { class: thing.id }),
      pages: await readOwnPages(app, thing.id, student.id),
      copies: await Promise.all(
        copies.map(async (copy) => ({
          ...(own ? await readOwnCopy(app, copy.id, student.id) : copy),
          ...(titles.find(({ id }) => id === copy.id) ?? { title: '', unit: null }),
        })),
      ),
      now: Date.now(),
    };
  },
);

export const actions = {
  begin: allowInClass(
    'see the plan',
    saying(async ({ request, params }: RequestEvent, { app, person, thing, relation }) => {
      if (relation !== 'student' || params.student !== person.id)
        error(403, 'Only its student adds pages to a workbook.');
      const { title } = await readForm(
        request,
        z.object({ title: z.string().trim().min(1, 'The page needs a title.').max(300) }),
      );
      const page = await beginOwnPage(app, {
        ...{ school: thing.school_id, class: thing.id, student: person.id, title },
      });
      redirect(303, `/read/${page}`);
    }),
  ),
  away: allowInClass(
    'see the plan',
    saying(async ({ request }: RequestEvent, { app, person }) => {
      const { page, away } = await readForm(
        request,
        z.object({ page: z.uuid(), away: z.stringbool() }),
      );
      await putOwnPageAway(app, page, person.id, away);
    }),
  ),
};
