import type { Database } from '../db/connect';
import { Grant, ofItsKind, type FoundThing, type LineOnPage, type ThingOf } from './grant';
import { findAssignment, findClass, findCourse, type PageReader } from './relation';
import type { SignedIn } from './session';
import type { AccessLine, LineAbout, LineOfRole } from './table';

/** Grants for what no route asks for: what a job or the demo does in somebody's name, or one request with several things. */

const readPerson = (db: Database, id: string): Promise<SignedIn> =>
  db
    .selectFrom('person')
    .select(['id', 'school_id', 'role', 'given', 'family', 'called'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();

const ask = async <L extends AccessLine>(
  db: Database,
  line: L,
  person: string,
  found: FoundThing<ThingOf<L>> | null,
): Promise<Grant<L>> => Grant.ask(line, await readPerson(db, person), found);

/** @throws Refusal when they may not */
export const grantInClass = async <L extends LineAbout<'class'>>(
  db: Database,
  line: L,
  person: string,
  klass: string,
): Promise<Grant<L>> => ask<L>(db, line, person, await findClass(db, person, klass));

/** @throws Refusal when they may not */
export const grantInCourse = async <L extends LineAbout<'course'>>(
  db: Database,
  line: L,
  person: string,
  course: string,
): Promise<Grant<L>> => ask<L>(db, line, person, await findCourse(db, person, course));

/** @throws Refusal when they may not */
export const grantOnAssignment = async <L extends LineAbout<'assignment'>>(
  db: Database,
  line: L,
  person: string,
  at: { assignment: string; class: string },
): Promise<Grant<L>> =>
  ask<L>(db, line, person, await findAssignment(db, person, at, line === 'change the assignment'));

/** @throws Refusal when they may not */
export const grantOnPage = async <L extends LineOnPage>(
  app: { db: Database; findPage: PageReader },
  line: L,
  person: string,
  page: string,
): Promise<Grant<L>> =>
  ask<L>(app.db, line, person, ofItsKind(line, await app.findPage(person, page)));

/** @throws Refusal when they may not */
export const grantByRole = async <L extends LineOfRole>(
  db: Database,
  line: L,
  person: string,
): Promise<Grant<L>> => Grant.byRole(line, await readPerson(db, person));
