import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/lessons';
import { allowInClass } from '$server/access/allow';
import { may } from '$server/access/table';
import { readBuild } from '$server/class/build-class';
import { closeClass, openClass, readOpening, setOpening } from '$server/class/open-class';
import { setArea } from '$server/class/set-area';
import { findWelcome, readPlan, readStaff, readStudentPlan } from '$server/class/plan';
import { beginPage } from '$server/course/begin-page';
import { settleNote, writeNote } from '$server/course/notes';
import { addUnit, dropUnit, putAway, renameUnit } from '$server/course/units';
import { readForm, saying } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import { tellClasses } from '$server/live/listeners';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInClass(
  'see the plan',
  async ({ depends }: PageServerLoadEvent, { app, person, thing, relation }) => {
    depends('uncia:plan');
    const isStudent = relation === 'student';
    const welcome = await findWelcome(app.db, thing.id);
    const opening = await readOpening(app.db, thing.id);
    const plan = isStudent
      ? { student: await readStudentPlan(app.db, thing.id, person.id), staff: null }
      : { student: null, staff: await readPlan(app.db, thing.id, person.id) };
    return {
      trail: isStudent
        ? [{ title: `${thing.name} ${thing.title}` }]
        : [
            { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
            { title: 'Plan' },
          ],
      klass: { id: thing.id, name: thing.name, title: thing.title, timeZone: thing.time_zone },
      plan,
      welcome: welcome
        ? { ...welcome, doc: (await app.pages.open(welcome.id)).doc.toJSON() as object }
        : null,
      ...opening,
      staff: (await readStaff(app.db, thing.id)).map(({ given, family, called, kind }) => ({
        name: called || `${given} ${family}`,
        kind,
      })),
      build: isStudent ? null : await readBuild(app.db, thing.id),
      mayKeep: may('keep the class', relation),
      isStudent,
      now: Date.now(),
    };
  },
);

const title = z
  .string()
  .trim()
  .min(1, 'A title is missing.')
  .max(300, 'A title has at most 300 signs.');
const id = z.uuid('Something is missing here. Please open the plan again.');
const maybeUnit = z.union([id, z.literal('')]).transform((unit) => unit || null);
const AREAS = ['shelf', 'worktable', 'cupboard', 'welcome'] as const;

export const actions = {
  unit: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(request, z.object({ title, unit: id.optional() }));
      const holder = { class: thing.id };
      if (wish.unit) await renameUnit(app.db, holder, wish.unit, wish.title);
      else await addUnit(app.db, thing.school_id, holder, wish.title);
      tellClasses(app, [thing.id], new Date());
    }),
  ),
  dropUnit: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { unit } = await readForm(request, z.object({ unit: id }));
      await dropUnit(app.db, { class: thing.id }, unit);
      tellClasses(app, [thing.id], new Date());
    }),
  ),
  begin: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(
        request,
        z.object({ title, unit: maybeUnit, area: z.enum(AREAS) }),
      );
      if (wish.area === 'welcome' && (await findWelcome(app.db, thing.id)))
        throw new Refusal(409, 'The class has a welcome page already.');
      const page = await beginPage(app.db, {
        ...{ school: thing.school_id, at: new Date(), title: wish.title, unit: wish.unit },
        in: { kind: 'class page', class: thing.id, area: wish.area },
      });
      redirect(303, `/editor/${page}`);
    }),
  ),
  area: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const wish = await readForm(
        request,
        z.object({ page: id, area: z.enum(['shelf', 'worktable', 'cupboard']) }),
      );
      await setArea(app, grant, wish.page, wish.area);
    }),
  ),
  away: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(request, z.object({ page: id, away: z.stringbool() }));
      await putAway(app.db, { class: thing.id }, wish.page, wish.away);
      tellClasses(app, [thing.id], new Date());
    }),
  ),
  note: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, person, thing }) => {
      const wish = await readForm(
        request,
        z.object({
          about: z.enum(['unit', 'page']),
          id,
          text: z.string().trim().min(1, 'The note is empty.').max(2000),
        }),
      );
      const holder = { class: thing.id };
      await writeNote(app.db, { ...wish, holder, school: thing.school_id, by: person.id });
    }),
  ),
  settle: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing, person }) => {
      const { note } = await readForm(request, z.object({ note: id }));
      await settleNote(app.db, { class: thing.id }, note, person.id);
    }),
  ),
  open: allowInClass(
    'keep the class',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { at } = await readForm(request, z.object({ at: z.string().default('') }));
      const now = new Date();
      if (at === '') return openClass(app, thing.id, now);
      const time = readLocalTime(at, thing.time_zone);
      if (time === null) throw new Refusal(400, 'The opening is not a date and time.');
      return setOpening(app, thing, new Date(time), now);
    }),
  ),
  stay: allowInClass(
    'keep the class',
    saying(async (_event: RequestEvent, { app, thing }) =>
      setOpening(app, thing, null, new Date()),
    ),
  ),
  close: allowInClass(
    'keep the class',
    saying(async (_event: RequestEvent, { app, thing }) => closeClass(app, thing.id, new Date())),
  ),
};
