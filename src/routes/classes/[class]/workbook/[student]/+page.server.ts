import { error } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { readStudents } from '$server/class/board';
import { readWorkbook } from '$server/copy/own-pages';
import type { PageServerLoadEvent } from './$types';

/** A student's workbook, as the staff of the class see it. */
export const load = allowInClass(
  'see the class',
  async ({ params, depends }: PageServerLoadEvent, { app, person, thing }) => {
    depends('uncia:work');
    const student = (await readStudents(app.db, thing.id)).find(({ id }) => id === params.student);
    if (!student) error(404, 'This student is not in the class.');
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: `${student.given} ${student.family}` },
      ],
      ...(await readWorkbook(app, thing, student, person.id)),
      own: false,
    };
  },
);
