import { sql } from 'kysely';
import { readLocalTime } from '$core/calendar/local-time';
import type { Source, SourceAssignment } from '$core/course/build-plan';
import { GradeRules } from '$core/grades/rules';
import { HandOutSpec } from '$core/handout/spec';
import { grouped } from '$core/lists/grouped';
import { Grant } from '../access/grant';
import { findClass, findCourse, type ClassThing } from '../access/relation';
import type { SignedIn } from '../access/session';
import { may } from '../access/table';
import { readTimetables } from '../calendar/timetables';
import { readListedPages, readUnits, type Holder } from '../course/units';
import { readDrafts } from '../handout/drafts';
import type { Connection } from '../page/page-store';
import type { Using } from '../services';

/** What a class can be built from, with what was asked for of each of its assignments. */
export interface BuildSource extends Source {
  specs: ReadonlyMap<string, HandOutSpec>;
}

/**
 * A course, or a class with its assignments and drafts, as it stands, for a class that is to be built from it.
 * @throws Refusal when it is not this person's to use
 */
export async function readSource(
  app: Using<'db'>,
  person: SignedIn,
  source: Holder,
  into: Pick<ClassThing, 'course_id' | 'time_zone'>,
): Promise<BuildSource> {
  const { db } = app;
  if ('course' in source)
    Grant.ask('see the course', person, await findCourse(db, person.id, source.course));
  else Grant.ask('carry over from the class', person, await findClass(db, person.id, source.class));
  const units = [...(await readUnits(db, source)), { id: null, title: 'In no unit' }];
  const pages = await readListedPages(db, source);
  if ('course' in source)
    return { units, pages, assignments: [], timetable: null, rules: null, specs: new Map() };
  const set = [
    ...(await readHandedOut(db, source.class)),
    ...(await readNotYetOut(db, source.class, into.time_zone)),
  ];
  const where = await readWhereabouts(db, person, into.course_id, set);
  const stands = new Set(units.map(({ id }) => id));
  const timetables = await readTimetables(db, person.school_id, [source.class]);
  return {
    units,
    pages,
    // What stands in a unit that was removed stands in none.
    assignments: set.map(({ id, spec, unit, due }) => ({
      id,
      title: spec.title,
      unit: stands.has(unit) ? unit : null,
      due,
      chosen: spec.only !== null || spec.without.length + spec.adapted.length > 0,
      copies: pagesOf(spec).filter((page) => !where.pages.has(page)),
      losesRubric: spec.rubric !== null && !where.rubrics.has(spec.rubric),
    })),
    timetable: timetables.get(source.class) ?? null,
    rules: await readOwnRules(db, source.class),
    specs: new Map(set.map(({ id, spec }) => [id, spec])),
  };
}

async function readOwnRules(db: Connection, klass: string): Promise<GradeRules | null> {
  const { grade_rules: rules } = await db
    .selectFrom('class')
    .select('grade_rules')
    .where('id', '=', klass)
    .executeTakeFirstOrThrow();
  return rules && GradeRules.parse(rules);
}

/** What came into classes before, by class: the pages that theirs were copied from. */
export async function readBrought(
  db: Connection,
  classes: readonly string[],
): Promise<Map<string, string[]>> {
  const rows = await db
    .selectFrom('page')
    .select(['class_id', 'from_id'])
    .where('class_id', '=', sql<string>`any(${classes}::uuid[])`)
    .where('kind', '=', 'class page')
    .where('from_id', 'is not', null)
    .where('away_at', 'is', null)
    .execute();
  const by = grouped(rows, (row) => row.class_id);
  return new Map(
    classes.map((id) => [id, (by.get(id) ?? []).flatMap(({ from_id }) => from_id ?? [])]),
  );
}

/** An assignment or a draft of the class. */
interface SetWork extends Pick<SourceAssignment, 'id' | 'unit' | 'due'> {
  spec: HandOutSpec;
}

const pagesOf = ({ originals, adapted }: HandOutSpec) =>
  [...originals, ...adapted].map(({ page }) => page);

/** What was handed out in a class and not withdrawn from it, in the order of due times. */
async function readHandedOut(db: Connection, klass: string): Promise<SetWork[]> {
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.spec', 'unit_id', 'due_at'])
    .where('class_id', '=', klass)
    .where('withdrawn_at', 'is', null)
    .where('spec', 'is not', null)
    .orderBy(sql`due_at nulls last`)
    .orderBy('handed_out_at')
    .execute();
  return rows.map(({ id, spec, unit_id, due_at }) => ({
    id,
    spec: HandOutSpec.parse(spec),
    unit: unit_id,
    due: due_at ? { kind: 'at', at: due_at.getTime() } : { kind: 'none' },
  }));
}

/** What was to be handed out in it and was not. */
async function readNotYetOut(db: Connection, klass: string, timeZone: string): Promise<SetWork[]> {
  const drafts = await readDrafts(db, [klass]);
  return drafts.map(({ id, spec }) => {
    const here = spec.classes.find((one) => one.class === klass);
    const due = here?.due ?? spec.due;
    const at = due.kind === 'at' ? readLocalTime(due.local, timeZone) : null;
    return {
      id,
      spec,
      unit: here?.unit ?? null,
      due: due.kind !== 'at' ? due : at === null ? { kind: 'none' } : { kind: 'at' as const, at },
    };
  });
}

/**
 * Which pages a class of a course uses where they lie, because they lie in that course: others come as fresh copies. And which
 * rubrics it can have: those of the course, and for whoever writes it fresh copies of others.
 */
async function readWhereabouts(
  db: Connection,
  person: SignedIn,
  course: string,
  set: readonly SetWork[],
) {
  const pages = set.flatMap(({ spec }) => pagesOf(spec));
  const rubrics = set.flatMap(({ spec }) => spec.rubric ?? []);
  const relation = (await findCourse(db, person.id, course))?.relation ?? 'nobody';
  const sees = may('see the course', relation);
  const used = await db
    .selectFrom('page')
    .select('id')
    .where('id', '=', sql<string>`any(${sees ? pages : []}::uuid[])`)
    .where('course_id', '=', course)
    .where('away_at', 'is', null)
    .execute();
  const had = await db
    .selectFrom('rubric')
    .select('id')
    .where('id', '=', sql<string>`any(${sees ? rubrics : []}::uuid[])`)
    .$if(!may('write the course', relation), (query) => query.where('course_id', '=', course))
    .execute();
  const ids = (rows: readonly { id: string }[]) => new Set(rows.map(({ id }) => id));
  return { pages: ids(used), rubrics: ids(had) };
}
