import type { Gap } from '$core/headcount/gap';
import type { Grant } from '../access/grant';
import { grantInClass } from '../access/in-the-name-of';
import { readOwnClasses } from '../desk/own-classes';
import { readNames } from '../school/names';
import { readTimeZone } from '../school/time-zone';
import type { Using } from '../services';
import { readHeadcount } from './mend';

/** The headcount of a class: of each assignment how many copies should be there and are, and the gaps of all. */
interface ClassCount {
  id: string;
  /** "8C" */
  name: string;
  title: string;
  assignments: { id: string; title: string; expected: number; there: number }[];
  gaps: Gap[];
}

/** The headcount of all classes that a teacher leads now: of a term. */
export async function viewTermCount(app: Using<'db'>, { person }: Grant<'see own desk'>) {
  const own = (await readOwnClasses(app.db, person.id)).filter(({ leads }) => leads);
  const classes: ClassCount[] = [];
  // One class after the other: a view of a year's work does not hold several connections.
  for (const { id, name, title } of own) {
    const grant = await grantInClass(app.db, 'manage the class', person.id, id);
    const { counts, gaps } = await readHeadcount(app, grant);
    classes.push({
      id,
      name,
      title,
      assignments: counts.map(({ id, title, expected, there }) => ({ id, title, expected, there })),
      gaps,
    });
  }
  return {
    classes,
    names: await readNames(
      app.db,
      classes.flatMap(({ gaps }) => gaps.flatMap(({ students }) => students)),
    ),
    timeZone: await readTimeZone(app.db, person.school_id),
  };
}
