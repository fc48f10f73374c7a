import { error, redirect } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { may } from '$server/access/table';
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
    return {
      trail: [...(klass ? [plan] : []), { title: thing.title }],
      ...{ page: thing.id, title: thing.title, version: held.version },
      doc: held.doc.toJSON() as object,
      mayWrite: may('write the page', relation),
      setAside: await readSetAside(app.db, thing.id, person.id),
      timeZone: await readTimeZone(app.db, thing.school_id),
    };
  },
);
