import { asStudentSees, type CopyRow } from '$core/copy/copy-row';
import type { Counting } from '$core/grades/grade-line';
import type { GradeColumn } from '$core/grades/gradebook';
import { GradeRules, PLAIN_RULES } from '$core/grades/rules';
import type { Grant } from '../access/grant';
import type { ClassThing } from '../access/relation';
import { readStudents } from '../class/board';
import { readCopies } from '../copy/facts';
import { readOwnCopies } from '../copy/own-work';
import { dueThen, hasCome, isHandedOut, meantUntil, namedThen, type Moment } from '../db/as-of';
import type { Database } from '../db/connect';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';

/** How a class counts, and how often that was changed. */
async function readRules(db: Connection, klass: string) {
  const row = await db
    .selectFrom('class')
    .select(['grade_rules', 'grade_rules_version as version'])
    .where('id', '=', klass)
    .executeTakeFirstOrThrow();
  return {
    rules: row.grade_rules ? GradeRules.parse(row.grade_rules) : PLAIN_RULES,
    version: row.version,
  };
}

/** What counts points in a class, in the order of its units and of handing out. */
async function readColumns(
  db: Connection,
  klass: string,
  at: Moment = null,
): Promise<GradeColumn[]> {
  const found = await db
    .selectFrom('assignment_class as handed')
    .innerJoin('assignment', 'assignment.id', 'handed.assignment_id')
    .innerJoin('assignment_original as original', 'original.assignment_id', 'assignment.id')
    .innerJoin('page', 'page.id', 'original.page_id')
    .leftJoin('unit', 'unit.id', 'handed.unit_id')
    .select([
      'assignment.id as assignment',
      'assignment.title',
      'assignment.category',
      'assignment.points',
      'assignment.rubric_id',
      'original.page_id as for',
      'page.title as page',
      'handed.counting',
      dueThen('handed', at).as('due_at'),
      meantUntil('assignment.id', at).$castTo<{ spec: unknown } | null>().as('meant'),
    ])
    .where('handed.class_id', '=', klass)
    .where(isHandedOut('handed', at))
    .where(hasCome('handed.handed_out_at', at))
    .where('original.instead_of', 'is', null)
    .where('original.delivery', '<>', 'to read')
    .orderBy('unit.place')
    .orderBy('handed_out_at')
    .orderBy('page.title')
    .execute();
  const rows = found
    .map(({ meant, ...row }) => namedThen(row, meant))
    .filter(({ points }) => points !== null);
  return rows.map(({ page, title, points, rubric_id, due_at, ...row }) => ({
    ...row,
    most: points ?? '0',
    title:
      rows.filter(({ assignment }) => assignment === row.assignment).length > 1
        ? `${title}: ${page}`
        : title,
    byRubric: rubric_id !== null,
    due: due_at?.getTime() ?? null,
  }));
}

/** How a class counts, and what. @param at what stood in it then; it is counted by the rules as they are now */
export const readGradeView = async (db: Connection, klass: string, at: Moment = null) => ({
  rules: (await readRules(db, klass)).rules,
  columns: await readColumns(db, klass, at),
});

const nameOf = ({ id, name, title, time_zone, archived }: ClassThing) => ({
  id,
  name,
  title,
  timeZone: time_zone,
  archived,
});

/** The gradebook of a class, as its staff see it. */
export async function viewGradebook(db: Database, grant: Grant<'see the class'>) {
  const { thing: klass, person } = grant;
  const [{ rules, version }, columns, students, copies] = await Promise.all([
    readRules(db, klass.id),
    readColumns(db, klass.id),
    readStudents(db, klass.id),
    readCopies(db, { class: klass.id, replacedToo: true }, person.id),
  ]);
  const counted = new Set(columns.map(({ assignment }) => assignment));
  return {
    klass: nameOf(klass),
    students,
    columns,
    rules,
    version,
    copies: copies.filter(({ assignment }) => counted.has(assignment)),
    mayManage: grant.may('manage the class'),
    mayMark: grant.may('mark'),
    now: Date.now(),
  };
}

/** What a student has in the gradebook of a class: their own line, of what was handed back. */
export async function viewOwnGrades(db: Database, grant: Grant<'see own grades'>) {
  const { thing: klass, person } = grant;
  const [{ rules }, columns, copies] = await Promise.all([
    readRules(db, klass.id),
    readColumns(db, klass.id),
    readCopies(db, { student: person.id }, person.id),
  ]);
  const own: CopyRow[] = copies
    .filter((copy) => copy.class === klass.id)
    .map((copy) => asStudentSees(copy, person.id));
  const theirs = new Set(own.map(({ assignment }) => assignment));
  return {
    klass: nameOf(klass),
    me: person.id,
    columns: columns.filter(({ assignment }) => theirs.has(assignment)),
    rules,
    copies: own,
    /** What of it they can open: not what lies in the cupboard. */
    inSight: (await readOwnCopies(db, person.id)).map(({ id }) => id),
    now: Date.now(),
  };
}

/** Changes how a class counts. @throws Refusal when somebody else changed it after `version` */
export async function saveRules(
  app: Using<'db' | 'news'>,
  { thing: klass }: Grant<'manage the class'>,
  { rules, version }: { rules: GradeRules; version: number },
): Promise<void> {
  const saved = await app.db
    .updateTable('class')
    .set((eb) => ({
      grade_rules: JSON.stringify(rules),
      grade_rules_version: eb('grade_rules_version', '+', 1),
    }))
    .where('id', '=', klass.id)
    .where('grade_rules_version', '=', version)
    .returning('id')
    .executeTakeFirst();
  if (!saved)
    throw new Refusal(
      409,
      'Somebody else changed just now how this class counts. Yours is not saved, and is still here.',
    );
  publishToClasses(app, [klass.id]);
}

/** Says how an assignment counts in one of its classes. */
export async function setCounting(
  app: Using<'db' | 'news'>,
  { thing: { id, class: klass } }: Grant<'run the assignment'>,
  counting: Counting,
): Promise<void> {
  await app.db
    .updateTable('assignment_class')
    .set({ counting })
    .where('assignment_id', '=', id)
    .where('class_id', '=', klass.id)
    .execute();
  publishToClasses(app, [klass.id]);
}
