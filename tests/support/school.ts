import { Node } from 'prosemirror-model';
import { writeLocalTime } from '../../src/lib/core/calendar/local-time';
import { plainSpec, type HandOutSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { hashPassword } from '../../src/lib/server/access/password';
import type { App } from '../../src/lib/server/app';
import { handOutAs } from './deeds';
import { newPage } from './grants';

/** Before anything was handed out, whatever day a test plays on. */
const JOINED = new Date('2020-09-01T08:00:00Z');
export const PASSWORD = 'a good password';
let hashed: Promise<string> | null = null;

export interface TestSchool {
  id: number;
  /** Lead of the class. */
  teacher: string;
  /** Marker of the class. */
  marker: string;
  /** Lead of another class. */
  stranger: string;
  office: string;
  students: string[];
  /** A student of the other class. */
  otherStudent: string;
  class: string;
  otherClass: string;
  course: string;
}

/** A page with one place for each kind of answer. */
export const questionPage = (): Node =>
  Node.fromJSON(schema, {
    type: 'doc',
    content: [
      { type: 'paragraph', content: [{ type: 'text', text: 'Guarded words of the teacher.' }] },
      { type: 'answer_short', attrs: { id: 'short' } },
      { type: 'answer_number', attrs: { id: 'number', unit: 'm' } },
      {
        type: 'answer_choice',
        attrs: { id: 'choice', several: false },
        content: ['one', 'two'].map((text, i) => ({
          type: 'choice',
          attrs: { id: `choice-${i}`, chosen: false },
          content: [{ type: 'text', text }],
        })),
      },
      {
        type: 'answer_writing',
        attrs: { id: 'writing', aim: 0 },
        content: [{ type: 'paragraph' }],
      },
    ],
  });

/** Where text can be put into each answer of `questionPage` while it is empty. */
export const PLACES = { guarded: 5, short: 32, number: 34, writing: 49 } as const;

/** Two classes with a teacher each; the first has a marker and as many students as wanted. Sign-in names are plain. */
export async function makeSchool({ db }: App, size: number): Promise<TestSchool> {
  hashed ??= hashPassword(PASSWORD);
  const password_hash = await hashed;
  const { id } = await db
    .insertInto('school')
    .values({ name: 'Test school', time_zone: 'Europe/Dublin' })
    .returning('id')
    .executeTakeFirstOrThrow();
  const school_id = id;
  const names = ['teacher', 'marker', 'stranger', 'office', 'other'];
  const students = Array.from({ length: size }, (_, i) => `student${i + 1}`);
  const people = await db
    .insertInto('person')
    .values(
      [...names, ...students].map((name) => ({
        school_id,
        given: name,
        family: 'Person',
        called: '',
        sign_in_name: `${name}${id}`,
        password_hash,
        role:
          name === 'office'
            ? ('office' as const)
            : name.startsWith('student') || name === 'other'
              ? ('student' as const)
              : ('teacher' as const),
      })),
    )
    .returning(['id', 'given'])
    .execute();
  const who = (name: string) => people.find((person) => person.given === name)?.id ?? '';
  const one = async (table: 'course', title: string) =>
    (
      await db
        .insertInto(table)
        .values({ school_id, title })
        .returning('id')
        .executeTakeFirstOrThrow()
    ).id;
  const course = await one('course', 'Course');
  const otherCourse = await one('course', 'Other course');
  const term = await db
    .insertInto('term')
    .values({ school_id, name: 'Term', starts: '2026-09-01', ends: '2026-12-18' })
    .returning('id')
    .executeTakeFirstOrThrow();
  const make = async (name: string, course_id: string) =>
    (
      await db
        .insertInto('class')
        .values({ school_id, course_id, term_id: term.id, name, opened_at: new Date() })
        .returning('id')
        .executeTakeFirstOrThrow()
    ).id;
  const klass = await make('7A', course);
  const otherClass = await make('7B', otherCourse);
  await db
    .insertInto('class_staff')
    .values([
      { school_id, class_id: klass, person_id: who('teacher'), kind: 'lead' },
      { school_id, class_id: klass, person_id: who('marker'), kind: 'marker' },
      { school_id, class_id: otherClass, person_id: who('stranger'), kind: 'lead' },
    ])
    .execute();
  await db
    .insertInto('course_staff')
    .values([
      { school_id, course_id: course, person_id: who('teacher'), may: 'own' },
      { school_id, course_id: otherCourse, person_id: who('stranger'), may: 'own' },
    ])
    .execute();
  await db
    .insertInto('enrolment')
    .values([
      ...students.map((name) => ({
        school_id,
        class_id: klass,
        person_id: who(name),
        joined_at: JOINED,
      })),
      { school_id, class_id: otherClass, person_id: who('other'), joined_at: JOINED },
    ])
    .execute();
  return {
    id,
    teacher: who('teacher'),
    marker: who('marker'),
    stranger: who('stranger'),
    office: who('office'),
    students: students.map(who),
    otherStudent: who('other'),
    class: klass,
    otherClass,
    course,
  };
}

/** One more person of a test school, who signs in as the others do. @returns their id */
export async function addPerson(
  { db }: App,
  school: { id: number },
  name: string,
  role: 'teacher' | 'student' | 'office',
): Promise<string> {
  hashed ??= hashPassword(PASSWORD);
  const { id } = await db
    .insertInto('person')
    .values({
      school_id: school.id,
      role,
      given: name,
      family: 'Person',
      called: '',
      sign_in_name: `${name}${school.id}`,
      password_hash: await hashed,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** Two groups of two, by the order of the students; the rest is in none. @returns the grouping */
export async function makeBoats({ db }: App, school: TestSchool): Promise<string> {
  const { id: grouping_id } = await db
    .insertInto('grouping')
    .values({ school_id: school.id, class_id: school.class, name: 'Boats' })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const [place, name] of ['Tern', 'Skua'].entries()) {
    const { id: group_id } = await db
      .insertInto('grouping_group')
      .values({ school_id: school.id, grouping_id, name, place })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db
      .insertInto('group_member')
      .values(
        school.students
          .slice(place * 2, place * 2 + 2)
          .map((person_id) => ({ school_id: school.id, grouping_id, group_id, person_id })),
      )
      .execute();
  }
  return grouping_id;
}

export interface Assigned {
  original: string;
  assignment: string;
  /** The copies, in the order of the school's students. */
  copies: string[];
}

export async function assign(
  app: App,
  school: TestSchool,
  options: {
    page?: Node;
    guarded?: boolean;
    title?: string;
    due?: Date | null;
    points?: string;
    rubric?: string | null;
    category?: string;
    marking?: HandOutSpec['marking'];
  } = {},
): Promise<Assigned> {
  const {
    page = questionPage(),
    guarded = true,
    title = 'A task: “really?”',
    due = null,
    points = '10',
    rubric = null,
    category = '',
    marking = 'by hand',
  } = options;
  const at = new Date();
  const original = await newPage(
    app.db,
    { in: { kind: 'original', course: school.course }, title, at },
    page,
  );
  const assignment = crypto.randomUUID();
  await handOutAs(app, {
    spec: plainSpec(original, school.class, {
      title,
      points,
      rubric,
      category,
      marking,
      guarded,
      due: due
        ? { kind: 'at', local: writeLocalTime(due.getTime(), 'Europe/Dublin') }
        : { kind: 'none' },
    }),
    id: assignment,
    by: school.teacher,
    at,
  });
  const rows = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', assignment)
    .execute();
  const copies = school.students.map(
    (student) => rows.find((row) => row.student_id === student)?.id ?? '',
  );
  return { original, assignment, copies };
}
