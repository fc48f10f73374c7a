import type { AnswerKey } from '../../src/lib/core/marking/answer-key';
import type { Using } from '../../src/lib/server/services';
import type { HandOutSpec } from '../../src/lib/core/handout/spec';
import {
  grantInClass,
  grantInCourse,
  grantOnAssignment,
} from '../../src/lib/server/access/in-the-name-of';
import { setStaff, type StaffKind } from '../../src/lib/server/class/set-up';
import { shareCourse } from '../../src/lib/server/course/courses';
import type { CourseRight } from '../../src/lib/server/db/schema';
import type { LineAbout } from '../../src/lib/server/access/table';
import type { App } from '../../src/lib/server/app';
import { allow } from '../../src/lib/server/handout/allowances';
import {
  changeAssignment,
  previewChange,
  withdraw,
} from '../../src/lib/server/handout/change-assignment';
import {
  bringCorrection,
  carryCorrection,
  previewCorrection,
} from '../../src/lib/server/handout/corrections';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { receive } from '../../src/lib/server/roster/receive';
import { applyRoster, undoRoster, type RosterSpec } from '../../src/lib/server/roster/apply-roster';
import { undoChange } from '../../src/lib/server/handout/undo';

/** Deeds of one person, each with the grant that a route would ask for. */

async function onAssignment<L extends LineAbout<'assignment'>>(
  app: App,
  line: L,
  person: string,
  assignment: string,
  klass?: string,
) {
  const first = await app.db
    .selectFrom('assignment_class')
    .select('class_id')
    .where('assignment_id', '=', assignment)
    .orderBy('withdrawn_at', 'desc')
    .executeTakeFirstOrThrow();
  return grantOnAssignment(app.db, line, person, { assignment, class: klass ?? first.class_id });
}

interface By {
  by: string;
  at: Date;
}

export const handOutAs = async (
  app: App,
  { id, spec, by, at }: By & { id: string; spec: HandOutSpec },
) => handOut(app, await CheckedSpec.check(app, by, spec), { id, at });

type ChangeAs = By & { assignment: string; spec: HandOutSpec; begin: 'shared page' | 'original' };

export const changeAs = async (app: App, { assignment, spec, begin, by, at }: ChangeAs) =>
  changeAssignment(app, await onAssignment(app, 'change the assignment', by, assignment), {
    begin,
    at,
    spec: await CheckedSpec.check(app, by, spec),
  });

export const previewChangeAs = async (app: App, { assignment, spec, begin, by, at }: ChangeAs) =>
  previewChange(app, await onAssignment(app, 'change the assignment', by, assignment), {
    begin,
    at,
    spec: await CheckedSpec.check(app, by, spec),
  });

export async function undoAs(
  app: App,
  { assignment, change, by, at }: By & { assignment: string; change: string },
) {
  const grant = await onAssignment(app, 'change the assignment', by, assignment);
  const correction = await undoChange(app, grant, { change, at });
  if (correction) await carryCorrection(app, correction);
}

export const withdrawAs = async (
  app: App,
  by: string,
  assignment: string,
  klass: string,
  withdrawn: boolean,
) =>
  withdraw(
    app,
    await onAssignment(app, 'run the assignment', by, assignment, klass),
    withdrawn,
    new Date(),
  );

export const allowAs = async (
  app: App,
  {
    assignment,
    class: klass,
    by,
    ...spec
  }: By & {
    assignment: string;
    class: string;
    student: string;
    kind: 'extension' | 'excused' | 'as for all';
    due: Date | null;
    note: string;
  },
) => allow(app, await onAssignment(app, 'run the assignment', by, assignment, klass), spec);

type CorrectAs = { assignment: string; page: string; to: number; by: string };

export const previewCorrectionAs = async (app: App, { assignment, by, ...spec }: CorrectAs) =>
  previewCorrection(app, await onAssignment(app, 'change the assignment', by, assignment), spec);

export async function correctAs(app: App, { assignment, by, ...spec }: CorrectAs & By) {
  const grant = await onAssignment(app, 'change the assignment', by, assignment);
  const { facts, change } = await bringCorrection(app, grant, spec);
  await carryCorrection(app, change);
  return facts;
}

export const shareAs = async (
  app: App,
  by: string,
  course: string,
  colleague: string,
  may: CourseRight | null,
) =>
  shareCourse(app.db, await grantInCourse(app.db, 'share the course', by, course), colleague, may);

export const setStaffAs = async (
  app: App,
  by: string,
  klass: string,
  person: string,
  kind: StaffKind | null,
) => setStaff(app.db, await grantInClass(app.db, 'manage the class', by, klass), person, kind);

type RosterAs = Omit<RosterSpec, 'fromOffice'> & { by: string; fromOffice?: boolean };

/** What the job does that a change of a roster begins, done at once. */
async function receiveNow(app: App, klass: string) {
  const row = await app.db
    .selectFrom('roster_change')
    .select(['lines', 'undone_at'])
    .where('class_id', '=', klass)
    .orderBy('made_at', 'desc')
    .limit(1)
    .executeTakeFirst();
  const lines = row ? (row.lines as { did: string; person: string }[]) : [];
  const joined = lines.filter(({ did }) => did === 'joined' || did === 'came back');
  const people = (some: typeof lines) => some.map(({ person }) => person);
  await receive(app, {
    class: klass,
    joined: row?.undone_at ? [] : people(joined),
    moved: people(lines),
  });
}

export async function rosterAs(
  app: App,
  klass: { id: string },
  { by, ...spec }: RosterAs,
): Promise<number> {
  const grant = await grantInClass(app.db, 'manage the class', by, klass.id);
  const changes = await applyRoster(app, grant, { fromOffice: false, ...spec });
  await receiveNow(app, klass.id);
  return changes;
}

export async function undoRosterAs(
  app: App,
  by: string,
  klass: { id: string },
  change: string,
): Promise<void> {
  await undoRoster(app, await grantInClass(app.db, 'manage the class', by, klass.id), change);
  await receiveNow(app, klass.id);
}

/** A student's own copy of an assignment. */
export const copyOf = async (app: Using<'db'>, assignment: string, student: string) =>
  (
    await app.db
      .selectFrom('page')
      .select('id')
      .where('assignment_id', '=', assignment)
      .where('student_id', '=', student)
      .executeTakeFirstOrThrow()
  ).id;

/** Sets what is expected in a part of a page, or changes it. */
export const setKeyAs = (
  { db }: App,
  { school, page, part }: { school: number; page: string; part: string },
  key: AnswerKey,
) =>
  db
    .insertInto('answer_key')
    .values({ page_id: page, school_id: school, part_id: part, body: JSON.stringify(key) })
    .onConflict((one) =>
      one.columns(['page_id', 'part_id']).doUpdateSet({ body: JSON.stringify(key) }),
    )
    .execute();
