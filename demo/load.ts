import { sql } from 'kysely';
import { HandOutWish } from '../src/lib/core/handout/wish';
import { countWords, doneMask, partsOf, textOf } from '../src/lib/core/page/parts';
import type { App } from '../src/lib/server/app';
import { handOut } from '../src/lib/server/handout/hand-out';
import { HeldPage } from '../src/lib/server/page/held-page';
import { insertSteps, writeSnapshots, type StepRow } from '../src/lib/server/page/write-changes';
import { Chance } from './chance';
import { fillClass } from './class-pages';
import { fillCourse } from './course';
import { FATES, plans, type Assigned } from './plans';
import { DAY, makeSchool, MINUTE, type DemoClass, type School } from './school';
import { writeHistory } from './write-history';

async function commentOn(
  app: App,
  school: School,
  page: string,
  held: HeldPage,
  quote: string,
  words: string[],
) {
  let from = -1;
  held.doc.descendants((node, pos) => {
    const at = node.isText ? (node.text?.indexOf(quote) ?? -1) : -1;
    if (at >= 0 && from < 0) from = pos + at;
  });
  if (from < 0) return;
  const to = from + quote.length;
  const place = {
    at_from: from,
    at_to: to,
    made_from: from,
    made_to: to,
    made_version: held.version,
  };
  const thread = await app.db
    .insertInto('thread')
    .values({ school_id: school.id, page_id: page, made_by: school.teacher, quote, ...place })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const text of words)
    await app.db
      .insertInto('comment')
      .values({
        school_id: school.id,
        thread_id: thread.id,
        person_id: school.teacher,
        kind: 'said',
        text,
      })
      .execute();
  await app.db
    .updateTable('page')
    .set((eb) => ({ threads: eb('threads', '+', 1) }))
    .where('id', '=', page)
    .execute();
}

/** Hands one original out to all three classes, and writes the copies as their students would have. */
async function handOutPlan(
  app: App,
  chance: Chance,
  school: School,
  plan: Assigned,
  original: string,
): Promise<void> {
  const id = chance.id();
  const at = school.classes[0]?.lessons[plan.out]?.starts;
  if (at === undefined) throw new Error('the demo term has too few lessons');
  const { due } = await handOut(app, {
    ...{ id, by: school.teacher, at: new Date(at) },
    wish: HandOutWish.parse({
      ...{ title: plan.original.title, instructions: plan.instructions, points: plan.points },
      originals: [{ page: original, delivery: 'one each' }],
      classes: school.classes.map((klass) => ({ class: klass.id, unit: klass.units[plan.unit] })),
      due: { kind: 'lesson', nth: plan.due - plan.out },
    }),
  });
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', id)
    .execute();
  const copyOf = new Map(copies.map((copy) => [copy.student_id, copy.id]));
  for (const [place, klass] of school.classes.entries()) {
    const given = { out: at, due: due.get(klass.id) ?? school.now };
    await writeCopies(app, chance, school, klass, plan, given, place * 8, copyOf);
  }
}

/** @param shift how far along the list of fates this class begins */
async function writeCopies(
  app: App,
  chance: Chance,
  school: School,
  klass: DemoClass,
  plan: Assigned,
  given: { out: number; due: number },
  shift: number,
  copyOf: ReadonlyMap<string | null, string>,
): Promise<void> {
  const [first, ...between] = klass.lessons
    .map(({ starts }) => starts)
    .filter((starts) => starts >= given.out && starts < given.due);
  if (first === undefined || first > school.now - 15 * MINUTE) return;
  const lessons = between.map((starts) => starts + 4 * MINUTE);
  const steps: StepRow[] = [];
  const kept: object[] = [];
  for (const [index, student] of klass.students.entries()) {
    const id = copyOf.get(student);
    if (!id) continue;
    const page = HeldPage.at(0, plan.original.page, []);
    const fate = plan.fate((index + shift) % FATES);
    const copy = { id, student, page, out: first, due: given.due, lessons };
    const written = writeHistory(chance, school, copy, plan, fate);
    const { held } = written;
    steps.push(...written.rows);
    const withTeacher = written.events.findLast(
      ({ kind }) => kind === 'handed in' || kind === 'handed back',
    );
    if (held.version > 0) {
      kept.push({
        ...{ id: id, version: held.version, done_mask: doneMask(partsOf(held.doc)) },
        ...{ words: countWords(textOf(held.doc)), written_at: new Date(held.lastAt) },
        with_teacher: withTeacher?.kind === 'handed in',
      });
      for (const snapshot of [...written.snapshots, held])
        await writeSnapshots(app.db, new Date(snapshot.lastAt), [
          { id: id, school: school.id, held: snapshot },
        ]);
    }
    if (written.events.length > 0)
      await app.db
        .insertInto('event')
        .values(
          written.events
            .sort((a, b) => a.at - b.at)
            .map(({ kind, at, person, note }) => ({
              ...{ school_id: school.id, page_id: id, person_id: person, at: new Date(at) },
              ...{ kind, version: held.version, note: note ?? '' },
            })),
        )
        .execute();
    for (const { points, at } of written.scores)
      await app.db
        .insertInto('score')
        .values({
          ...{ school_id: school.id, page_id: id, person_id: school.teacher, points },
          ...{ at: new Date(at), version: held.version },
        })
        .execute();
    await commentOn(app, school, id, held, 'you can’t just draw a straight line', [
      'This is the heart of it. What curve would you draw instead?',
    ]);
    await commentOn(app, school, id, held, 'sees only the end light', [
      'Lovely detail. Which side of the boat is it on at that moment?',
    ]);
  }
  await insertSteps(app.db, steps);
  await sql`update page set version = r.version, done_mask = r.done_mask, words = r.words,
      written_at = r.written_at, with_teacher = r.with_teacher
    from jsonb_to_recordset(${JSON.stringify(kept)}::jsonb) as r(id uuid, version int, done_mask text, words int,
      written_at timestamptz, with_teacher boolean)
    where page.id = r.id`.execute(app.db);
}

/**
 * Fills an empty database with Skerry Point School, as it is six weeks into its term.
 * @param now epoch milliseconds; everything is made relative to it
 */
export async function loadDemo(app: App, now: number): Promise<void> {
  const chance = new Chance(8_032);
  const school = await makeSchool(app, chance, now);
  const lessons = school.classes[0]?.lessons ?? [];
  const begins = lessons[0]?.starts ?? now;
  const originals = await fillCourse(app, {
    ...{ school: school.id, course: school.course, teacher: school.teacher },
    at: new Date(begins - DAY),
  });
  for (const klass of school.classes)
    await fillClass(app, {
      ...{ school: school.id, course: school.course, class: klass },
      at: new Date(begins),
    });
  // The first lesson that has not ended yet; work that is "due at the next but one" is due in some days.
  const today = lessons.findIndex(({ ends }) => ends > now);
  for (const plan of plans(chance, today))
    await handOutPlan(app, chance, school, plan, originals.get(plan.original.key) ?? '');
}
