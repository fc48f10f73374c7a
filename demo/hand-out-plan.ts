import type { Chance } from './chance';
import { HandOutSpec } from '../src/lib/core/handout/spec';
import type { App } from '../src/lib/server/app';
import { allow } from '../src/lib/server/handout/allowances';
import { grantOnAssignment } from '../src/lib/server/access/in-the-name-of';
import { handOut } from '../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../src/lib/server/handout/rights';
import { HeldPage } from '../src/lib/server/page/held-page';
import type { Originals } from './course';
import { SKETCH_ADAPTED } from './originals';
import { FATES, type Assigned } from './plans';
import { putWritten } from './put-written';
import { DAY, MINUTE, type DemoClass, type School } from './school';
import { scorerBy, type ScoreBy } from './score-by';
import { writeHistory } from './write-history';

/** Hands one original out to the school's classes, and writes the copies as their students would have. */
export async function handOutPlan(
  app: App,
  chance: Chance,
  school: School,
  plan: Assigned,
  originals: Originals,
): Promise<void> {
  const id = chance.id();
  const [first] = school.classes;
  const at = first?.lessons[plan.out]?.starts;
  if (!first || at === undefined) throw new Error('the demo term has too few lessons');
  const original = originals.of(plan.original.key);
  const adapted = plan.adapted.flatMap((n) => first.students[n] ?? []);
  const checked = await CheckedSpec.check(
    app,
    school.teacher,
    HandOutSpec.parse({
      title: plan.original.title,
      instructions: plan.instructions,
      points: plan.points,
      category: plan.category,
      rubric: originals.rubricOf(plan.original.key)?.id ?? null,
      originals: [{ page: original, delivery: 'one each' }],
      classes: school.classes.map((klass) => ({ class: klass.id, unit: klass.units[plan.unit] })),
      due: { kind: 'lesson', nth: plan.due - plan.out },
      adapted:
        adapted.length > 0
          ? [{ page: originals.sketchAdapted, instead: original, students: adapted }]
          : [],
    }),
  );
  const { due } = await handOut(app, checked, { id, at: new Date(at) });
  const here = { assignment: id, class: first.id };
  const run = await grantOnAssignment(app.db, 'run the assignment', school.teacher, here);
  for (const { student, kind, note, lessons } of plan.allowances)
    await allow(app, run, {
      kind,
      note,
      student: first.students[student] ?? '',
      due: lessons ? new Date(first.lessons[plan.due + lessons]?.ends ?? at) : null,
      at: new Date(Math.min(at + DAY, school.now - MINUTE)),
    });
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id', 'source_id'])
    .where('assignment_id', '=', id)
    .execute();
  const copyOf = new Map(copies.map((copy) => [copy.student_id, copy]));
  for (const [place, klass] of school.classes.entries())
    await putWritten(
      app,
      school,
      writeCopies(chance, school, klass, plan, {
        out: at,
        due: due.get(klass.id) ?? school.now,
        shift: place * 8,
        scoreBy: scorerBy(chance, originals, plan.original.key),
        copyOf: (student) => {
          const copy = copyOf.get(student);
          const doc = copy?.source_id === original ? plan.original.page : SKETCH_ADAPTED;
          return copy ? { id: copy.id, page: HeldPage.at(0, doc, []) } : null;
        },
      }),
    );
}

/** The copies of one class. `shift`: how far along the list of fates it begins. */
function writeCopies(
  chance: Chance,
  school: School,
  klass: DemoClass,
  plan: Assigned,
  given: {
    out: number;
    due: number;
    shift: number;
    scoreBy: ScoreBy;
    copyOf: (student: string) => { id: string; page: HeldPage } | null;
  },
) {
  const [first, ...between] = klass.lessons
    .map(({ starts }) => starts)
    .filter((starts) => starts >= given.out && starts < given.due);
  if (first === undefined || first > school.now - 15 * MINUTE) return [];
  const lessons = between.map((starts) => starts + 4 * MINUTE);
  return klass.students.flatMap((student, index) => {
    const copy = given.copyOf(student);
    if (!copy) return [];
    const { due, scoreBy } = given;
    const start = { ...copy, student, out: first, due, lessons, scoreBy };
    const fate = plan.fate((index + given.shift) % FATES);
    return [{ id: copy.id, ...writeHistory(chance, school, start, plan.original.key, fate) }];
  });
}
