import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { may } from '$server/access/table';
import { takeReading } from '$server/copy/own-pages';
import { readSetAside } from '$server/page/set-aside';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowOnPage(
  'read the page',
  async (_event: PageServerLoadEvent, { app, person, thing, relation }) => {
    if (thing.kind === 'copy') error(404, 'There is no such page here.');
    if (may('keep the page', relation)) redirect(303, `/editor/${thing.id}`);
    const held = await app.pages.open(thing.id);
    const klass = await app.db
      .selectFrom('class')
      .innerJoin('course', 'course.id', 'class.course_id')
      .select(['class.name', 'course.title'])
      .where('class.id', '=', thing.class_id)
      .executeTakeFirst();
    const plan = { title: `${klass?.name} ${klass?.title}`, to: `/classes/${thing.class_id}/plan` };
    const workbook =
      thing.kind === 'own page' && thing.student_id
        ? [
            {
              title: 'Workbook',
              to: `/classes/${thing.class_id}/workbook${relation === 'writer' ? '' : `/${thing.student_id}`}`,
            },
          ]
        : [];
    return {
      trail: [...(klass ? [plan] : []), ...workbook, { title: thing.title }],
      ...{ page: thing.id, title: thing.title, version: held.version },
      doc: held.doc.toJSON() as object,
      mayWrite: may('write the page', relation),
      isOwn: relation === 'writer',
      mayTake: may('take a copy of the page', relation),
      setAside: await readSetAside(app.db, thing.id, person.id),
      timeZone: await readTimeZone(app.db, thing.school_id),
    };
  },
);

export const actions = {
  /** Takes a copy of what is read into the student's own workbook. */
  take: allowOnPage(
    'take a copy of the page',
    async (_event: RequestEvent, { app, person, thing }) => {
      const page = await takeReading(app, thing.id, person.id);
      redirect(303, `/read/${page}`);
    },
  ),
};
