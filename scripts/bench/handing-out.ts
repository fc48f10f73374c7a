import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { HandOutSpec } from '../../src/lib/core/handout/spec';
import type { App } from '../../src/lib/server/app';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import type { TestSchool } from '../../tests/support/school';
import { timeBareCopies } from './bare-copies';
import { figure, quantile } from './figure';

const CLASSES = 40;
const STUDENTS = 1000;

/** One hand-out to 40 classes of 25 students each, against the bare insert of the same copies. */
export async function handOut40(
  app: App,
  school: TestSchool,
  original: string,
  turns: number,
): Promise<void> {
  const { db } = app;
  const { rows } = await sql<{ id: string }>`
    with term as (select id from term where school_id = ${school.id} limit 1),
    classes as (
      insert into class (school_id, course_id, term_id, name, opened_at)
      select ${school.id}, ${school.course}, term.id, 'Wide ' || n, now() from term, generate_series(0, ${CLASSES - 1}) n
      returning id, substring(name from 6)::int as n),
    led as (
      insert into class_staff (class_id, school_id, person_id, kind)
      select id, ${school.id}, ${school.teacher}::uuid, 'lead' from classes),
    students as (
      select id, row_number() over (order by id) - 1 as n from person
      where school_id = ${school.id} and role = 'student' limit ${STUDENTS}),
    enrolled as (
      insert into enrolment (school_id, class_id, person_id, joined_at)
      select ${school.id}, classes.id, students.id, now()
      from classes join students on students.n / ${STUDENTS / CLASSES} = classes.n)
    select id from classes`.execute(db);
  const classes = rows.map(({ id }) => id);
  const spec = HandOutSpec.parse({
    title: 'Wide',
    originals: [{ page: original, delivery: 'one each' }],
    classes: classes.map((id) => ({ class: id })),
  });
  const checked = await CheckedSpec.check(app, school.teacher, spec);
  const bareTimes: number[] = [];
  const fullTimes: number[] = [];
  for (let turn = 0; turn < turns; turn++) {
    const id = randomUUID();
    const then = performance.now();
    const { copies } = await handOut(app, checked, { id, at: new Date() });
    fullTimes.push(performance.now() - then);
    if (copies.length !== STUDENTS) throw new Error(`${copies.length} copies`);
    bareTimes.push(await timeBareCopies(db, { assignment: id, original, classes }));
  }
  figure('handout.40', quantile(fullTimes, 0.5), 'ms', quantile(bareTimes, 0.5));
}
