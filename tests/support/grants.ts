import type { Node } from 'prosemirror-model';
import { beginClassPage, beginPage } from '../../src/lib/server/course/begin-page';
import type { Area } from '../../src/lib/server/db/schema';
import type { App } from '../../src/lib/server/app';
import {
  grantByRole,
  grantInClass,
  grantInCourse,
  grantOnPage,
} from '../../src/lib/server/access/in-the-name-of';
import type { Grant } from '../../src/lib/server/access/grant';
import type { Database } from '../../src/lib/server/db/connect';

/** Grants as a route would ask for them, of whoever has the thing unless somebody is named. */

async function ownerOf(db: Database, course: string): Promise<string> {
  const row = await db
    .selectFrom('course_staff')
    .select('person_id')
    .where('course_id', '=', course)
    .where('may', '=', 'own')
    .executeTakeFirstOrThrow();
  return row.person_id;
}

async function leadOf(db: Database, klass: string): Promise<string> {
  const row = await db
    .selectFrom('class_staff')
    .select('person_id')
    .where('class_id', '=', klass)
    .where('kind', '=', 'lead')
    .executeTakeFirstOrThrow();
  return row.person_id;
}

export const inCourse = async (
  db: Database,
  course: string,
  by?: string,
): Promise<Grant<'write the course'>> =>
  grantInCourse(db, 'write the course', by ?? (await ownerOf(db, course)), course);

export const inClass = async (
  db: Database,
  klass: string,
  by?: string,
): Promise<Grant<'manage the class'>> =>
  grantInClass(db, 'manage the class', by ?? (await leadOf(db, klass)), klass);

export const ofOffice = (db: Database, office: string): Promise<Grant<'manage the school'>> =>
  grantByRole(db, 'manage the school', office);

export const ofTeacher = (db: Database, teacher: string): Promise<Grant<'manage courses'>> =>
  grantByRole(db, 'manage courses', teacher);

export const ofStudent = (db: Database, student: string): Promise<Grant<'see own work'>> =>
  grantByRole(db, 'see own work', student);

interface Whose {
  page: string;
  person: string;
}
export const toWork = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'do own work', person, page);
export const toSee = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'see own copy', person, page);
export const toLook = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'look inside', person, page);
export const toMark = (app: App, { page, person }: Whose) => grantOnPage(app, 'mark', person, page);
export const toLookBack = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'look back', person, page);
export const toPutBack = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'put back', person, page);
export const toComment = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'comment', person, page);
export const toRead = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'read the page', person, page);
export const toKeep = (app: App, { page, person }: Whose) =>
  grantOnPage(app, 'manage the page', person, page);

type Place =
  | { kind: 'original' | 'reading'; course: string }
  | { kind: 'class page'; class: string; area: Area };

/** A new page of a course or a class, made by whoever has it. */
export async function newPage(
  db: Database,
  spec: { title: string; at: Date; unit?: string | null; in: Place },
  page?: Node,
): Promise<string> {
  const { in: place, ...rest } = spec;
  if (place.kind === 'class page')
    return beginClassPage(db, await inClass(db, place.class), { ...rest, area: place.area }, page);
  return beginPage(db, await inCourse(db, place.course), { ...rest, kind: place.kind }, page);
}
