import { Temporal } from 'temporal-polyfill';
import { STAFF, STUDENTS } from '../../demo/people';

/** A reference to another record, as OneRoster 1.2 has it. */
interface Ref {
  href: string;
  sourcedId: string;
  type: string;
}

interface Base {
  sourcedId: string;
  status: 'active' | 'tobedeleted';
  dateLastModified: string;
}

/** The office's records, in the shapes of OneRoster 1.2's REST binding. */
export interface Records {
  orgs: (Base & { name: string; type: 'school'; identifier: string })[];
  classes: (Base & {
    title: string;
    classCode: string;
    classType: 'scheduled';
    course: Ref;
    school: Ref;
    terms: Ref[];
  })[];
  users: (Base & {
    enabledUser: boolean;
    username: string;
    givenName: string;
    familyName: string;
    email: string;
    roles: { roleType: 'primary'; role: 'student' | 'teacher'; org: Ref }[];
  })[];
  enrollments: (Base & { user: Ref; class: Ref; school: Ref; role: 'student' | 'teacher' })[];
  academicSessions: (Base & {
    title: string;
    type: 'term';
    startDate: string;
    endDate: string;
    schoolYear: string;
  })[];
}

const ref = (kind: string, path: string, sourcedId: string): Ref => ({
  href: `/ims/oneroster/rostering/v1p2/${path}/${sourcedId}`,
  sourcedId,
  type: kind,
});

/** Who has moved since Uncia's 8C was entered: two came, one left, and two names are written another way. */
const MOVED_8C: readonly string[] = [
  ...STUDENTS['8C'].filter(
    (name) => !['Jan Pellworm', 'Roisin Quillan', 'June Hesper'].includes(name),
  ),
  ...['Róisín Quillan', 'June Hesper-Vane', 'Ines Quarrie', 'Otto Sandvik'],
];

const CLASSES: readonly { id: string; title: string; code: string; students: readonly string[] }[] =
  [
    { id: 'cls-8a', title: 'Geography 8A', code: '8A', students: STUDENTS['8A'] },
    { id: 'cls-8b', title: 'Geography 8B', code: '8B', students: STUDENTS['8B'] },
    { id: 'cls-8c', title: 'Geography 8C', code: '8C', students: MOVED_8C },
    { id: 'cls-9a', title: 'Weather 9A', code: '9A', students: STUDENTS['9A'] },
  ];

/** Skerry Point School as its office has it. @param today an ISO date; the term began some six weeks before */
export function officeRecords(today: string): Records {
  const date = Temporal.PlainDate.from(today);
  const starts = date.subtract({ days: date.dayOfWeek - 1, weeks: 6 });
  const base = (sourcedId: string): Base => ({
    sourcedId,
    status: 'active',
    dateLastModified: `${starts.toString()}T07:00:00.000Z`,
  });
  const school = ref('org', 'orgs', 'skerry-point');
  const names = [...new Set(CLASSES.flatMap(({ students }) => students))];
  const numbers = new Map(names.map((name, index) => [name, `sp-${1001 + index}`]));
  const teachers = STAFF.filter(({ role }) => role === 'teacher');
  const people = [
    ...[...numbers].map(([name, sourcedId]) => ({ name, sourcedId, role: 'student' as const })),
    ...teachers.map(({ given, family }, index) => ({
      name: `${given} ${family}`,
      sourcedId: `sp-${101 + index}`,
      role: 'teacher' as const,
    })),
  ];
  return {
    orgs: [
      { ...base('skerry-point'), name: 'Skerry Point School', type: 'school', identifier: '17' },
    ],
    academicSessions: [
      {
        ...base('term-autumn'),
        title: 'Autumn term',
        type: 'term',
        startDate: starts.toString(),
        endDate: starts.add({ days: 14 * 7 - 3 }).toString(),
        schoolYear: String(date.year + (date.month > 7 ? 1 : 0)),
      },
    ],
    classes: CLASSES.map(({ id, title, code }) => ({
      ...base(id),
      title,
      classCode: code,
      classType: 'scheduled',
      course: ref('course', 'courses', 'geography'),
      school,
      terms: [ref('term', 'terms', 'term-autumn')],
    })),
    users: [...people].map(({ name, sourcedId, role }) => {
      const [givenName = '', ...family] = name.split(' ');
      const username = name.toLowerCase().replaceAll(' ', '.');
      return {
        ...base(sourcedId),
        enabledUser: true,
        username,
        givenName,
        familyName: family.join(' '),
        email: `${sourcedId}@skerry-point.example`,
        roles: [{ roleType: 'primary', role, org: school }],
      };
    }),
    enrollments: CLASSES.flatMap(({ id, students }) =>
      students.map((name) => {
        const user = numbers.get(name) ?? '';
        return {
          ...base(`${id}-${user}`),
          user: ref('user', 'users', user),
          class: ref('class', 'classes', id),
          school,
          role: 'student' as const,
        };
      }),
    ),
  };
}
