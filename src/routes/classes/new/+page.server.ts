import { dayOf } from '$core/calendar/local-time';
import { readTimeZone } from '$server/school/time-zone';
import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { beginClass } from '$server/class/begin-class';
import { readListedPages } from '$server/course/units';
import { readCourses } from '$server/course/courses';
import { readForm, formAction } from '$server/http/form';
import { readTerms } from '$server/school/calendar';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'manage courses',
  async (_event: PageServerLoadEvent, { app, person }) => {
    const today = dayOf(Date.now(), await readTimeZone(app.db, person.school_id));
    return {
      trail: [{ title: 'New class' }],
      courses: await readCourses(app.db, person.id),
      terms: (await readTerms(app.db, person.school_id)).filter(({ ends }) => ends >= today),
    };
  },
);

const Spec = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'What is the class called?')
    .max(60, 'The name of a class has at most 60 characters.'),
  course: z.uuid('Choose what is taught in it.'),
  term: z.uuid('Choose its term.'),
});

export const actions = {
  default: allowPerson(
    'manage courses',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, Spec);
      const klass = await beginClass(app.db, grant, spec);
      // Where there is nothing to bring in yet, nothing is asked about it.
      const pages = await readListedPages(app.db, { course: spec.course });
      redirect(303, `/classes/${klass}/${pages.length > 0 ? 'build' : 'roster'}`);
    }),
  ),
};
