import { formAction, readForm } from '$server/http/form';
import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import {
  beginCourse,
  readCourses,
  readOwnClasses,
  readRemovedCourses,
} from '$server/course/courses';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'manage courses',
  async ({ url }: PageServerLoadEvent, { app, person }) => {
    const courses = await readCourses(app.db, person.id);
    const classes = await readOwnClasses(app.db, person.id);
    const chosen = classes.find(({ id }) => id === url.searchParams.get('class'));
    // Who comes from a class to hand out finds what belongs to it.
    if (chosen && courses.some(({ id }) => id === chosen.course_id))
      redirect(303, `/courses/${chosen.course_id}?class=${chosen.id}`);
    return {
      trail: [{ title: 'Courses' }],
      courses,
      chosen,
      removed: await readRemovedCourses(app.db, person.id),
    };
  },
);

const NewCourse = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'A course needs a title.')
    .max(300, 'A title has at most 300 characters.'),
});

export const actions = {
  begin: allowPerson(
    'manage courses',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { title } = await readForm(request, NewCourse);
      redirect(303, `/courses/${await beginCourse(app.db, grant, title)}`);
    }),
  ),
};
