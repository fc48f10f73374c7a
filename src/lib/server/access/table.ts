/** What a person is to the thing that is asked for. */
export type Relation =
  /** The student whose copy it is, or one of those who share it, in a class that is open. */
  | 'owner'
  /** A student of the class, which is open. */
  | 'student'
  | 'lead'
  | 'co-teacher'
  | 'marker'
  /** May write the course, or keep the page: of a course they write, or of a class they lead. */
  | 'keeper'
  /** Whose course it is, alone or with others. */
  | 'course owner'
  /** May use what is in the course, and not change it. */
  | 'user'
  /** A student who may read this page: of their class, or handed out to them to read. */
  | 'reader'
  /** The student whose own page it is, which no teacher handed out. */
  | 'writer'
  /** A student of the class, of a page of somebody's folio that is shown to them. */
  | 'classmate'
  /** One of the staff, of such a page: they look, and the student alone writes. */
  | 'overseer'
  /** A student to whom this copy of a classmate’s was dealt, to score it. */
  | 'scorer'
  /** A student who may write this page of their class, with others. */
  | 'co-writer'
  /** Of the staff of a class that is archived: they read all of it. */
  | 'past lead'
  | 'past co-teacher'
  | 'past marker'
  /** A student of an archived class, while they still read what is their own. */
  | 'past student'
  | 'nobody';

export type Role = 'teacher' | 'student' | 'office';

interface Line {
  /**
   * What the line is about; null for no one thing. A copy, a material and a work are pages: a work is what students
   * write, a copy, an own page or a page of the worktable.
   */
  thing: 'class' | 'course' | 'assignment' | 'page' | 'copy' | 'material' | 'work' | null;
  /** Who may, by relation to the thing; or, where there is no thing, by role. 'anyone' needs no sign-in. */
  who: readonly (Relation | Role | 'anyone')[];
}

const marking = ['lead', 'co-teacher', 'marker'] as const;
const leading = ['lead', 'co-teacher'] as const;
/** The staff of a class, be it archived. */
const staff = [...marking, 'past lead', 'past co-teacher', 'past marker'] as const;

/** Who may what. Every server route declares one of these lines. */
export const ACCESS = {
  enter: { thing: null, who: ['anyone'] },
  'be signed in': { thing: null, who: ['teacher', 'student', 'office'] },
  'see own desk': { thing: null, who: ['teacher'] },
  'see own work': { thing: null, who: ['student'] },
  'manage the school': { thing: null, who: ['office'] },
  'manage courses': { thing: null, who: ['teacher'] },
  'keep a phrasebook': { thing: null, who: ['teacher'] },
  'see the course': { thing: 'course', who: ['course owner', 'keeper', 'user'] },
  'write the course': { thing: 'course', who: ['course owner', 'keeper'] },
  'share the course': { thing: 'course', who: ['course owner'] },
  'see the class': { thing: 'class', who: staff },
  'see the plan': { thing: 'class', who: [...staff, 'student'] },
  'see own workbook': { thing: 'class', who: ['student', 'past student'] },
  'manage own workbook': { thing: 'class', who: ['student'] },
  /** Of students what is shown to them; of the staff all. */
  'see the folios': { thing: 'class', who: [...staff, 'student'] },
  'see own grades': { thing: 'class', who: ['student', 'past student'] },
  'hand out': { thing: 'class', who: leading },
  'close the term': { thing: 'class', who: ['lead'] },
  /** What is still to be said of an archived class: open again, or for how long its students read. */
  /** Its materials, for another class or course. */
  'carry over from the class': {
    thing: 'class',
    who: [...leading, 'past lead', 'past co-teacher'],
  },
  /** All of it, private notes and answer keys included. */
  'download the archive': { thing: 'class', who: ['past lead'] },
  'keep the archive': { thing: 'class', who: ['past lead'] },
  /** In one of its classes. */
  'see the assignment': { thing: 'assignment', who: staff },
  /** Those of one class, several at once. */
  'mark its copies': { thing: 'assignment', who: marking },
  /** What concerns one of its classes alone. */
  'run the assignment': { thing: 'assignment', who: leading },
  /** What concerns all of its classes: the relation is the least that the person has to any of them. */
  'change the assignment': { thing: 'assignment', who: leading },
  'manage the class': { thing: 'class', who: leading },
  'read the page': {
    thing: 'page',
    who: [
      'owner',
      ...staff,
      'keeper',
      'user',
      'reader',
      'co-writer',
      'writer',
      'overseer',
      'classmate',
      'past student',
    ],
  },
  'take a copy of the page': { thing: 'page', who: ['reader'] },
  'write the page': { thing: 'page', who: ['owner', 'writer', ...leading, 'keeper', 'co-writer'] },
  'see own copy': { thing: 'copy', who: ['owner', 'reader', 'past student'] },
  'do own work': { thing: 'copy', who: ['owner'] },
  /** A copy without the names of those whose it is, as it was dealt; and to score it. */
  'score a classmate': { thing: 'copy', who: ['scorer'] },
  /** How something was written, and how it stood at any moment. */
  'look back': {
    thing: 'work',
    who: [
      'owner',
      'writer',
      'co-writer',
      'reader',
      'past student',
      ...staff,
      'overseer',
      'keeper',
      'user',
    ],
  },
  /** Put it back as it stood, and name a moment of it; a worktable's keepers do that for all. */
  'put back': { thing: 'work', who: ['owner', 'writer', ...leading] },
  'read the comments': {
    thing: 'page',
    who: ['owner', 'writer', ...staff, 'overseer', 'past student'],
  },
  comment: { thing: 'page', who: ['owner', 'writer', ...marking, 'overseer'] },
  'look inside': { thing: 'copy', who: staff },
  /** A copy as it is marked, with what was said and given. */
  'see the marking': { thing: 'copy', who: staff },
  mark: { thing: 'copy', who: marking },
  'use the page': { thing: 'page', who: ['keeper', 'user'] },
  'manage the page': { thing: 'material', who: ['keeper'] },
} as const satisfies Record<string, Line>;

export type AccessLine = keyof typeof ACCESS;

/** Whether a line lets somebody who is that to the thing do what it says. */
export function may(line: AccessLine, who: Relation | Role): boolean {
  const allowed: readonly string[] = ACCESS[line].who;
  return allowed.includes(who);
}

/** Whether somebody who is that to a page is the student, or one of the students, whose work it is to write. */
export const isOwnTo = (who: Relation | Role): boolean => who === 'owner' || who === 'writer';

/** The lines that go by somebody's part in the school. */
export type LineOfRole = LineAbout<null>;

/** The lines about one kind of thing, except the one that lets everybody in. */
export type LineAbout<Thing extends Line['thing']> = {
  [L in AccessLine]: (typeof ACCESS)[L]['thing'] extends Thing ? L : never;
}[Exclude<AccessLine, 'enter'>];
