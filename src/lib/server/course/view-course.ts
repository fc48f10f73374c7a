import { readRubric } from '$core/marking/rubric';
import type { Grant } from '../access/grant';
import type { Database } from '../db/connect';
import { readCodes, readRemovedLists } from './code-lists';
import { readLedAssignments, readTagged } from './code-tags';
import { readColleagues, readOwnClasses, readCourseSharers } from './courses';
import { readNotes, readSettledNotes } from './notes';
import { readMovedAway } from './paste';
import { readRubrics } from './rubrics';
import { readAwayUnits, readListedPages, readUnits } from './units';

type Seen = Grant<'see the course'>;

/** A course with all that stands in it. `chosen`: a class in which what is chosen here is handed out. */
export async function viewCourse(db: Database, grant: Seen, chosen: string | null) {
  const { thing: course, person } = grant;
  const holder = { course: course.id };
  const [units, pages, awayPages, rubrics, awayRubrics, notes, sharers, colleagues, classes] =
    await Promise.all([
      readUnits(db, holder),
      readListedPages(db, holder),
      readListedPages(db, holder, true),
      readRubrics(db, course.id),
      readRubrics(db, course.id, true),
      readNotes(db, holder, person.id),
      readCourseSharers(db, course.id),
      readColleagues(db, person),
      readOwnClasses(db, person.id),
    ]);
  return {
    course,
    units,
    pages,
    notes,
    sharers,
    colleagues,
    away: [
      ...awayPages.map(({ id, title }) => ({ id, title, kind: 'page' })),
      ...awayRubrics.map(({ id, title }) => ({ id, title, kind: 'rubric' })),
      ...(await readAwayUnits(db, holder)).map((unit) => ({ ...unit, kind: 'unit' })),
      ...(await readSettledNotes(db, holder, person.id)).map((note) => ({ ...note, kind: 'note' })),
    ],
    movedAway: grant.may('share the course') ? await readMovedAway(db, course.id) : [],
    rubrics: rubrics.map(({ body, ...rubric }) => ({ ...rubric, ...sizeOf(body) })),
    mayWrite: grant.may('write the course'),
    mayShare: grant.may('share the course'),
    chosen: classes.find(({ id }) => id === chosen) ?? null,
    classes: classes.filter((klass) => klass.course_id === course.id),
  };
}

function sizeOf(body: unknown) {
  const rubric = readRubric(body);
  return { criteria: rubric.criteria.length, points: rubric.total };
}

/** The codes of the school, and what in a course carries them. */
export async function viewCodes(db: Database, grant: Seen) {
  const { thing: course, person } = grant;
  const rubrics = await readRubrics(db, course.id);
  const pages = await readListedPages(db, { course: course.id });
  return {
    course,
    codes: await readCodes(db, course.school_id),
    removed: await readRemovedLists(db, course.school_id, person.id),
    me: person.id,
    tagged: await readTagged(db, course.id),
    pages: pages.map(({ id, title }) => ({ id, title })),
    criteria: rubrics.flatMap((rubric) =>
      readRubric(rubric.body).criteria.map(({ id, title }) => ({
        rubric: rubric.id,
        criterion: id,
        title: `${title}, in ${rubric.title}`,
      })),
    ),
    assignments: await readLedAssignments(db, course.id, person.id),
    mayWrite: grant.may('write the course'),
  };
}
