import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { Destination } from '$core/course/build-plan';
import { allowInClass } from '$server/access/allow';
import { beginBuild, readSource } from '$server/class/build-class';
import { readCourses, readOwnClasses } from '$server/course/courses';
import type { Holder } from '$server/course/units';
import { readFields, saying } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

/** "course <id>" or "class <id>", as the choice of a source names it. */
function readHolder(text: string): Holder | null {
  const [kind, id] = text.split(' ');
  if (!id || !z.uuid().safeParse(id).success) return null;
  return kind === 'course' ? { course: id } : kind === 'class' ? { class: id } : null;
}

export const load = allowInClass(
  'keep the class',
  async ({ url }: PageServerLoadEvent, { app, person, thing }) => {
    const courses = await readCourses(app.db, person.id);
    const classes = await readOwnClasses(app.db, person.id);
    const asked = url.searchParams.get('from') ?? '';
    const own = courses.some(({ id }) => id === thing.course_id) ? `course ${thing.course_id}` : '';
    const from = readHolder(asked) ? asked : own;
    const holder = readHolder(from);
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: 'Plan', to: `/classes/${thing.id}/plan` },
        { title: 'Bring in units' },
      ],
      klass: { id: thing.id, name: thing.name },
      courses: courses.map(({ id, title, may, owner }) => ({ id, title, may, owner })),
      classes: classes.filter(({ id }) => id !== thing.id),
      from,
      source: holder ? await readSource(app, person.id, holder) : null,
    };
  },
);

const unitWish = z.object({
  id: z.uuid().nullable(),
  readings: Destination,
  originals: Destination,
});

export const actions = {
  default: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, person, thing }) => {
      const fields = await readFields(request);
      const source = readHolder(String(fields.get('from') ?? ''));
      if (!source) throw new Refusal(400, 'Choose what to bring in from first.');
      const units = fields.getAll('unit').map((unit) =>
        unitWish.safeParse({
          id: unit === '' ? null : unit,
          readings: fields.get(`readings ${unit}`),
          originals: fields.get(`originals ${unit}`),
        }),
      );
      const wishes = units.flatMap((unit) => (unit.success ? [unit.data] : []));
      if (wishes.length === 0) throw new Refusal(400, 'Choose at least one unit.');
      const sections =
        fields.get('sections') === 'by hand'
          ? String(fields.get('names') ?? '')
              .split('\n')
              .map((name) => name.trim().slice(0, 300))
              .filter(Boolean)
          : [];
      await beginBuild(app, thing, { source, units: wishes, sections, by: person.id });
      redirect(303, `/classes/${thing.id}/plan`);
    }),
  ),
};
