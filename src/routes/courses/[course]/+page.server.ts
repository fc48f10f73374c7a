import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { readRubric } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { may } from '$server/access/table';
import { beginPage } from '$server/course/begin-page';
import { copyPages } from '$server/course/copy-pages';
import { readColleagues, readOwnClasses, readSharers, shareCourse } from '$server/course/courses';
import { bringBack, readMovedAway } from '$server/course/paste-pages';
import { readNotes, settleNote, writeNote } from '$server/course/notes';
import { beginRubric, putRubricAway, readRubrics } from '$server/course/rubrics';
import {
  addUnit,
  dropUnit,
  putAway,
  readListedPages,
  readUnits,
  renameUnit,
} from '$server/course/units';
import { readForm, saying } from '$server/http/form';
import type { PageServerLoadEvent, RequestEvent } from './$types';
import { inTransaction } from '$server/db/transaction';

export const load = allowInCourse(
  'see the course',
  async ({ url }: PageServerLoadEvent, { app, person, thing, relation }) => {
    const holder = { course: thing.id };
    const [units, pages, awayPages, rubrics, awayRubrics, notes, sharers, colleagues, classes] =
      await Promise.all([
        readUnits(app.db, holder),
        readListedPages(app.db, holder),
        readListedPages(app.db, holder, true),
        readRubrics(app.db, thing.id),
        readRubrics(app.db, thing.id, true),
        readNotes(app.db, holder, person.id),
        readSharers(app.db, thing.id),
        readColleagues(app.db, person),
        readOwnClasses(app.db, person.id),
      ]);
    return {
      trail: [{ title: 'Courses', to: '/courses' }, { title: thing.title }],
      ...{ course: thing, units, pages, notes, sharers, colleagues },
      away: [
        ...awayPages.map(({ id, title }) => ({ id, title, kind: 'page' })),
        ...awayRubrics.map(({ id, title }) => ({ id, title, kind: 'rubric' })),
      ],
      movedAway: may('share the course', relation) ? await readMovedAway(app.db, thing.id) : [],
      rubrics: rubrics.map(({ body, ...rubric }) => ({ ...rubric, ...sizeOf(body) })),
      mayWrite: may('write the course', relation),
      mayShare: may('share the course', relation),
      chosen: classes.find(({ id }) => id === url.searchParams.get('class')) ?? null,
      classes: classes.filter((klass) => klass.course_id === thing.id),
    };
  },
);

function sizeOf(body: unknown) {
  const rubric = readRubric(body);
  return { criteria: rubric.criteria.length, points: rubric.total };
}

const title = z
  .string()
  .trim()
  .min(1, 'A title is missing.')
  .max(300, 'A title has at most 300 signs.');
const id = z.uuid('Something is missing here. Please open the course again.');
const maybeUnit = z.union([id, z.literal('')]).transform((unit) => unit || null);
const KINDS = ['original', 'reading', 'rubric'] as const;

export const actions = {
  rename: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { title: name } = await readForm(request, z.object({ title }));
      await app.db.updateTable('course').set({ title: name }).where('id', '=', thing.id).execute();
    }),
  ),
  unit: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(request, z.object({ title, unit: id.optional() }));
      const holder = { course: thing.id };
      if (wish.unit) await renameUnit(app.db, holder, wish.unit, wish.title);
      else await addUnit(app.db, thing.school_id, holder, wish.title);
    }),
  ),
  dropUnit: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { unit } = await readForm(request, z.object({ unit: id }));
      await dropUnit(app.db, { course: thing.id }, unit);
    }),
  ),
  begin: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, person, thing }) => {
      const wish = await readForm(
        request,
        z.object({ title, unit: maybeUnit, kind: z.enum(KINDS) }),
      );
      const holder = { course: thing.id, school: thing.school_id };
      if (wish.kind === 'rubric') {
        const rubric = await beginRubric(app.db, {
          ...holder,
          unit: wish.unit,
          title: wish.title,
          by: person.id,
        });
        redirect(303, `/courses/${thing.id}/rubrics/${rubric}`);
      }
      const page = await beginPage(app.db, {
        ...{ school: thing.school_id, at: new Date(), title: wish.title, unit: wish.unit },
        in: { kind: wish.kind, course: thing.id },
      });
      redirect(303, `/editor/${page}`);
    }),
  ),
  kind: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(
        request,
        z.object({ page: id, kind: z.enum(['original', 'reading']) }),
      );
      await app.db
        .updateTable('page')
        .set({ kind: wish.kind })
        .where('id', '=', wish.page)
        .where('course_id', '=', thing.id)
        .where('adapted', '=', false)
        .execute();
    }),
  ),
  adapt: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const { page } = await readForm(request, z.object({ page: id }));
      const pages = await readListedPages(app.db, { course: thing.id });
      const original = pages.find(
        (one) => one.id === page && one.kind === 'original' && !one.adapts,
      );
      if (!original)
        return fail(404, { sentence: 'Only an original of this course can be adapted.' });
      await inTransaction(app.db, (tx) =>
        copyPages(app.memory, tx, {
          ...{ school: thing.school_id, pages: [page], unit: original.unit, at: new Date() },
          ...{ in: { kind: 'original', course: thing.id }, adapted: true },
        }),
      );
    }),
  ),
  away: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing }) => {
      const wish = await readForm(
        request,
        z.object({ thing: id, kind: z.enum(['page', 'rubric']), away: z.stringbool() }),
      );
      if (wish.kind === 'page') await putAway(app.db, { course: thing.id }, wish.thing, wish.away);
      else await putRubricAway(app.db, thing.id, wish.thing, wish.away);
    }),
  ),
  bringBack: allowInCourse(
    'share the course',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const { page } = await readForm(request, z.object({ page: id }));
      await bringBack(app.db, grant, page);
    }),
  ),
  note: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, person, thing }) => {
      const wish = await readForm(
        request,
        z.object({
          about: z.enum(['course', 'unit', 'page', 'rubric']),
          id,
          text: z
            .string()
            .trim()
            .min(1, 'The note is empty.')
            .max(2000, 'A note has at most 2000 signs.'),
        }),
      );
      await writeNote(app.db, {
        ...wish,
        holder: { course: thing.id },
        school: thing.school_id,
        by: person.id,
      });
    }),
  ),
  settle: allowInCourse(
    'write the course',
    saying(async ({ request }: RequestEvent, { app, thing, person }) => {
      const { note } = await readForm(request, z.object({ note: id }));
      await settleNote(app.db, { course: thing.id }, note, person.id);
    }),
  ),
  share: allowInCourse(
    'share the course',
    saying(async ({ request }: RequestEvent, { app, grant }) => {
      const wish = await readForm(
        request,
        z.object({ colleague: id, may: z.enum(['own', 'write', 'use', 'no']) }),
      );
      await shareCourse(app.db, grant, wish.colleague, wish.may === 'no' ? null : wish.may);
      app.news.endStreams({ people: [wish.colleague] });
    }),
  ),
};
