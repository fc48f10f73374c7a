import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readSetAside } from './set-aside';
import { readTimeZone } from '../school/time-zone';

/** A page that is read, or written outside of the editor: of a class, or a student's own. */
export async function viewPage(app: Using<'db' | 'pages'>, grant: Grant<'read the page'>) {
  const { thing, person, relation } = grant;
  const held = await app.pages.open(thing.id);
  const klass = await app.db
    .selectFrom('class')
    .innerJoin('course', 'course.id', 'class.course_id')
    .select(['class.name', 'course.title'])
    .where('class.id', '=', thing.class_id)
    .executeTakeFirst();
  const at = `/classes/${thing.class_id}`;
  const isOwner = relation === 'writer' || relation === 'past student';
  const whose = isOwner ? '' : `/${thing.student_id}`;
  const store =
    thing.folio === null
      ? { title: 'Workbook', to: `${at}/workbook${whose}` }
      : { title: 'Folio', to: isOwner ? `${at}/folio` : `${at}/folios${whose}` };
  // Of an archived class a student has their workbook, and no plan.
  const home = relation === 'past student' ? '/work' : `${at}/plan`;
  return {
    trail: [
      ...(klass ? [{ title: `${klass.name} ${klass.title}`, to: home }] : []),
      ...(thing.kind === 'own page' ? [store] : []),
      { title: thing.title },
    ],
    page: thing.id,
    title: thing.title,
    version: held.version,
    doc: held.doc.toJSON() as object,
    mayWrite: grant.may('write the page'),
    isOwn: relation === 'writer',
    mayLookBack: grant.may('look back'),
    mayTake: grant.may('take a copy of the page'),
    setAside: await readSetAside(app.db, thing.id, person.id),
    timeZone: await readTimeZone(app.db, thing.school_id),
  };
}
