import { dayOf } from '$core/calendar/local-time';
import { readTimeZone } from '$server/school/time-zone';
import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { grantInClass } from '$server/access/in-the-name-of';
import { beginClasses } from '$server/class/begin-classes';
import { readListedPages } from '$server/course/units';
import { readCourses } from '$server/course/courses';
import { readFields, readShape, formAction } from '$server/http/form';
import { readTerms } from '$server/school/calendar';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'manage courses',
  async ({ url }: PageServerLoadEvent, { app, person }) => {
    const from = url.searchParams.get('from');
    const before = from
      ? (await grantInClass(app.db, 'carry over from the class', person.id, from)).thing
      : null;
    const today = dayOf(Date.now(), await readTimeZone(app.db, person.school_id));
    return {
      trail: [{ title: 'New class' }],
      from: before && { id: before.id, name: before.name, course: before.course_id },
      courses: await readCourses(app.db, person.id),
      terms: (await readTerms(app.db, person.school_id)).filter(({ ends }) => ends >= today),
    };
  },
);

const Names = z
  .array(z.string().trim().max(60, 'The name of a class has at most 60 characters.'))
  .transform((names) => [...new Set(names.filter(Boolean))])
  .pipe(
    z
      .array(z.string())
      .min(1, 'What is the class called?')
      .max(20, 'At most 20 classes are created at once.'),
  );

const Spec = z.object({
  names: Names,
  from: z.union([z.uuid(), z.literal('')]).default(''),
  course: z.uuid('Choose what is taught in it.'),
  term: z.uuid('Choose its term.'),
  same: z.literal('yes').optional(),
});

export const actions = {
  default: allowPerson(
    'manage courses',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const fields = await readFields(request);
      const spec = readShape({ ...Object.fromEntries(fields), names: fields.getAll('name') }, Spec);
      const [first, ...also] = await beginClasses(app.db, grant, {
        ...spec,
        same: spec.same === 'yes',
      });
      // Where there is nothing to bring in yet, nothing is asked about it.
      const pages = await readListedPages(app.db, { course: spec.course });
      const source = spec.from ? `from=class ${spec.from}&` : '';
      const isEmpty = pages.length === 0 && spec.from === '';
      redirect(
        303,
        `/classes/${first}/${isEmpty ? 'roster' : `build?${source}also=${also.join()}`}`,
      );
    }),
  ),
};
