import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInCourse } from '$server/access/allow';
import { adapt } from '$server/course/adapted';
import { beginPage } from '$server/course/begin-page';
import { renameCourse, setCourseAway, shareCourse } from '$server/course/courses';
import { changeNote, openNote, settleNote, writeNote } from '$server/course/notes';
import { bringBack } from '$server/course/paste';
import { beginRubric, putRubricAway } from '$server/course/rubrics';
import {
  addUnit,
  bringUnitBack,
  dropUnit,
  putAway,
  renameUnit,
  setKind,
} from '$server/course/units';
import { viewCourse } from '$server/course/view-course';
import { readForm, formAction } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async ({ url }: PageServerLoadEvent, { app, grant }) => ({
    trail: [{ title: 'Courses', to: '/courses' }, { title: grant.thing.title }],
    ...(await viewCourse(app.db, grant, url.searchParams.get('class'))),
  }),
);

const title = z
  .string()
  .trim()
  .min(1, 'A title is missing.')
  .max(300, 'A title has at most 300 characters.');
const id = z.uuid('Something is missing here. Please open the course again.');
const maybeUnit = z.union([id, z.literal('')]).transform((unit) => unit || null);
const noteText = z
  .string()
  .trim()
  .min(1, 'The note is empty.')
  .max(2000, 'A note has at most 2000 characters.');
const KINDS = ['original', 'reading', 'rubric'] as const;

export const actions = {
  rename: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { title: name } = await readForm(request, z.object({ title }));
      await renameCourse(app.db, grant, name);
    }),
  ),
  unit: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ title, unit: id.optional() }));
      if (spec.unit) await renameUnit(app.db, grant, spec.unit, spec.title);
      else await addUnit(app.db, grant, spec.title);
    }),
  ),
  dropUnit: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { unit } = await readForm(request, z.object({ unit: id }));
      await dropUnit(app.db, grant, unit);
    }),
  ),
  begin: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ title, unit: maybeUnit, kind: z.enum(KINDS) }),
      );
      const course = grant.thing.id;
      if (spec.kind === 'rubric')
        redirect(303, `/courses/${course}/rubrics/${await beginRubric(app.db, grant, spec)}`);
      const { kind, ...page } = spec;
      const made = await beginPage(app.db, grant, { ...page, kind, at: new Date() });
      redirect(303, `/editor/${made}`);
    }),
  ),
  kind: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ page: id, kind: z.enum(['original', 'reading']) }),
      );
      await setKind(app.db, grant, spec.page, spec.kind);
    }),
  ),
  adapt: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { page } = await readForm(request, z.object({ page: id }));
      await adapt(app, grant, page);
    }),
  ),
  away: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({
          thing: id,
          kind: z.enum(['page', 'rubric', 'unit', 'note']),
          away: z.stringbool(),
        }),
      );
      const { thing, away } = spec;
      if (spec.kind === 'page') await putAway(app.db, grant, thing, away);
      else if (spec.kind === 'rubric') await putRubricAway(app.db, grant, thing, away);
      else if (spec.kind === 'unit') await (away ? dropUnit : bringUnitBack)(app.db, grant, thing);
      else await (away ? settleNote : openNote)(app.db, grant, thing);
    }),
  ),
  bringBack: allowInCourse(
    'share the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { page } = await readForm(request, z.object({ page: id }));
      await bringBack(app.db, grant, page);
    }),
  ),
  note: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({
          about: z.enum(['course', 'unit', 'page', 'rubric']),
          id,
          text: noteText,
        }),
      );
      await writeNote(app.db, grant, spec);
    }),
  ),
  changeNote: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      await changeNote(
        app.db,
        grant,
        await readForm(request, z.object({ note: id, text: noteText })),
      );
    }),
  ),
  settle: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { note } = await readForm(request, z.object({ note: id }));
      await settleNote(app.db, grant, note);
    }),
  ),
  remove: allowInCourse(
    'share the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { away } = await readForm(request, z.object({ away: z.stringbool() }));
      await setCourseAway(app.db, grant, away);
      redirect(303, away ? '/courses' : `/courses/${grant.thing.id}`);
    }),
  ),
  share: allowInCourse(
    'share the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(
        request,
        z.object({ colleague: id, may: z.enum(['own', 'write', 'use', 'no']) }),
      );
      await shareCourse(app.db, grant, spec.colleague, spec.may === 'no' ? null : spec.may);
      app.news.endStreams({ people: [spec.colleague] });
    }),
  ),
};
