import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/local-time';
import { allowInClass } from '$server/access/allow';
import { closeClass, openClass, setOpening } from '$server/class/open-class';
import { copyToCourse } from '$server/class/page-to-course';
import { setArea } from '$server/class/set-area';
import { viewPlan } from '$server/class/view-class';
import { storeUnits } from '$server/closing/store-units';
import { beginClassPage, putClassPageAway } from '$server/course/begin-page';
import { changeNote, openNote, settleNote, writeNote } from '$server/course/notes';
import { addUnit, bringUnitBack, dropUnit, renameUnit } from '$server/course/units';
import { readForm, formAction } from '$server/http/form';
import { publishToClasses } from '$server/live/listeners';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'see the plan',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:plan');
    const { id, name, title } = grant.thing;
    const klass = `${name} ${title}`;
    const view = await viewPlan(app, grant);
    const trail = view.isStudent
      ? [{ title: klass }]
      : [{ title: klass, to: `/classes/${id}` }, { title: 'Plan' }];
    return { trail, ...view };
  },
);

const title = z
  .string()
  .trim()
  .min(1, 'A title is missing.')
  .max(300, 'A title has at most 300 characters.');
const id = z.uuid('Something is missing here. Please open the plan again.');
const maybeUnit = z.union([id, z.literal('')]).transform((unit) => unit || null);
const AREAS = ['shelf', 'worktable', 'cupboard', 'welcome'] as const;

export const actions = {
  unit: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ title, unit: id.optional() }));
      if (spec.unit) await renameUnit(app.db, grant, spec.unit, spec.title);
      else await addUnit(app.db, grant, spec.title);
      publishToClasses(app, [grant.thing.id]);
    }),
  ),
  dropUnit: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { unit } = await readForm(request, z.object({ unit: id }));
      await dropUnit(app.db, grant, unit);
      publishToClasses(app, [grant.thing.id]);
    }),
  ),
  begin: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ title, unit: maybeUnit, area: z.enum(AREAS) }),
      );
      const page = await beginClassPage(app.db, grant, { ...spec, at: new Date() });
      redirect(303, `/editor/${page}`);
    }),
  ),
  area: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ page: id, area: z.enum(['shelf', 'worktable', 'cupboard']) }),
      );
      await setArea(app, grant, spec.page, spec.area);
    }),
  ),
  toCourse: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { page } = await readForm(request, z.object({ page: id }));
      return { copied: await copyToCourse(app, grant, page) };
    }),
  ),
  away: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { thing, kind, away } = await readForm(
        request,
        z.object({
          thing: id,
          kind: z.enum(['page', 'unit', 'note']),
          away: z.stringbool(),
        }),
      );
      if (kind === 'page') await putClassPageAway(app.db, grant, thing, away);
      else if (kind === 'unit') await (away ? dropUnit : bringUnitBack)(app.db, grant, thing);
      else await (away ? settleNote : openNote)(app.db, grant, thing);
      publishToClasses(app, [grant.thing.id]);
    }),
  ),
  note: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({
          about: z.enum(['unit', 'page']),
          id,
          text: z.string().trim().min(1, 'The note is empty.').max(2000),
        }),
      );
      await writeNote(app.db, grant, spec);
    }),
  ),
  changeNote: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const text = z.string().trim().min(1, 'The note is empty.').max(2000);
      await changeNote(app.db, grant, await readForm(request, z.object({ note: id, text })));
    }),
  ),
  settle: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { note } = await readForm(request, z.object({ note: id }));
      await settleNote(app.db, grant, note);
    }),
  ),
  open: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { at } = await readForm(request, z.object({ at: z.string().default('') }));
      const now = new Date();
      if (at === '') return openClass(app, grant, now);
      const time = readLocalTime(at, grant.thing.time_zone);
      if (time === null) throw new Refusal(400, 'The opening is not a date and time.');
      return setOpening(app, grant, new Date(time), now);
    }),
  ),
  stay: allowInClass(
    'manage the class',
    formAction(async (_event: RequestEvent, { app, grant }) =>
      setOpening(app, grant, null, new Date()),
    ),
  ),
  store: allowInClass(
    'manage the class',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { unit, stored } = await readForm(
        request,
        z.object({ unit: id, stored: z.stringbool() }),
      );
      await storeUnits(app, grant, [unit], stored);
    }),
  ),
  close: allowInClass(
    'manage the class',
    formAction(async (_event: RequestEvent, { app, grant }) => closeClass(app, grant)),
  ),
};
