import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { Destination } from '$core/course/build-plan';
import { allowInClass } from '$server/access/allow';
import { grantInClass } from '$server/access/in-the-name-of';
import { beginBuild } from '$server/class/build-class';
import { viewSources } from '$server/class/view-class';
import type { Holder } from '$server/course/units';
import { readFields, readShape, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

/** "course <id>" or "class <id>", as the choice of a source names it. */
function readHolder(text: string): Holder | null {
  const [kind, id] = text.split(' ');
  if (!id || !z.uuid().safeParse(id).success) return null;
  return kind === 'course' ? { course: id } : kind === 'class' ? { class: id } : null;
}

const nameHolder = (holder: Holder) =>
  'course' in holder ? `course ${holder.course}` : `class ${holder.class}`;

const ids = z
  .array(z.uuid('Something is missing here. Please open the view again.'))
  .max(1000, 'These are more than can be brought in at once.')
  .transform((ids) => [...new Set(ids)]);

export const load = allowInClass(
  'manage the class',
  async ({ url }: PageServerLoadEvent, { app, grant }) => {
    const { id, name, title } = grant.thing;
    const also = (url.searchParams.get('also') ?? '').split(',');
    const sources = await viewSources(app, grant, readHolder(url.searchParams.get('from') ?? ''));
    return {
      trail: [
        { title: `${name} ${title}`, to: `/classes/${id}` },
        { title: 'Plan', to: `/classes/${id}/plan` },
        { title: 'Bring in units' },
      ],
      ...sources,
      from: sources.from ? nameHolder(sources.from) : '',
      also: sources.into.flatMap((one) => (also.includes(one.id) ? one.id : [])),
    };
  },
);

const unitSpec = z.object({
  id: z.uuid().nullable(),
  readings: Destination,
  originals: Destination,
});

export const actions = {
  default: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const fields = await readFields(request);
      const source = readHolder(String(fields.get('from') ?? ''));
      if (!source) throw new Refusal(400, 'Choose what to bring in from first.');
      const units = fields.getAll('unit').map((unit) =>
        unitSpec.safeParse({
          id: unit === '' ? null : unit,
          readings: fields.get(`readings ${unit}`),
          originals: fields.get(`originals ${unit}`),
        }),
      );
      const specs = units.flatMap((unit) => (unit.success ? [unit.data] : []));
      if (specs.length === 0) throw new Refusal(400, 'Choose at least one unit.');
      const sections =
        fields.get('sections') === 'by hand'
          ? String(fields.get('names') ?? '')
              .split('\n')
              .map((name) => name.trim().slice(0, 300))
              .filter(Boolean)
          : [];
      const also = readShape(fields.getAll('also'), ids);
      const others = await Promise.all(
        also
          .filter((id) => id !== grant.thing.id)
          .map((id) => grantInClass(app.db, 'manage the class', grant.person.id, id)),
      );
      const assignments = readShape(fields.getAll('assignment'), ids);
      await beginBuild(app, [grant, ...others], {
        source,
        units: specs,
        assignments,
        rules: fields.get('rules') === 'on',
        sections,
      });
      redirect(303, `/classes/${grant.thing.id}/plan`);
    }),
  ),
};
