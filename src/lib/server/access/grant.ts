import { Refusal } from '../page/refusal';
import { refuseSealed } from '../page/sealed';
import type { AssignmentThing, ClassThing, CourseThing, FoundPage, PageThing } from './relation';
import type { SignedIn } from './session';
import {
  ACCESS,
  may,
  type AccessLine,
  type LineAbout,
  type LineOfRole,
  type Relation,
  type Role,
} from './table';

/** What a line of the table is about. */
interface Things {
  class: ClassThing;
  course: CourseThing;
  assignment: AssignmentThing;
  page: PageThing;
  copy: PageThing;
  material: PageThing;
  work: PageThing;
}
/** What a line is about; nothing, where it goes by somebody's part in the school. */
export type ThingOf<L extends AccessLine> = Things[NonNullable<(typeof ACCESS)[L]['thing']>];

/** A thing as it was found, with what a person is to it. */
export interface FoundThing<Thing> {
  relation: Relation;
  thing: Thing;
}

/** What students and strangers are to things. */
const OF_STUDENTS: readonly Relation[] = [
  'nobody',
  'student',
  'reader',
  'owner',
  'co-writer',
  'writer',
  'classmate',
  'scorer',
];
/** What people are to things of archived classes. */
const OF_ARCHIVES: readonly Relation[] = [
  'past lead',
  'past co-teacher',
  'past marker',
  'past student',
];

/**
 * That a person may do what a line of the table says with one very thing. A service that takes a grant cannot be called
 * without the check: a grant is made by asking, here, and by nothing else.
 */
export class Grant<L extends AccessLine = AccessLine> {
  /** Never there: it keeps an object that only looks like a grant from being taken for one. */
  declare protected readonly asked: true;

  private constructor(
    readonly line: L,
    readonly person: SignedIn,
    readonly thing: ThingOf<L>,
    readonly relation: Relation | Role,
  ) {}

  /** Whether its person may do what another line says with its thing. */
  may(line: AccessLine): boolean {
    const { thing, relation } = this;
    const isOther = thing && 'kind' in thing && !isOfKind(line, thing);
    return !isOther && may(line, relation);
  }

  /** What somebody may by their part in the school. @throws Refusal */
  static byRole<L extends LineOfRole>(line: L, person: SignedIn): Grant<L> {
    if (!may(line, person.role)) throw new Refusal(403, 'You don’t have access to this.');
    return new Grant(line, person, null as never, person.role);
  }

  /**
   * Whoever has nothing to do with a thing is not told that it exists.
   * @param found null when there is no such thing
   * @throws Refusal
   */
  static ask<L extends AccessLine>(
    line: L,
    person: SignedIn,
    found: FoundThing<ThingOf<L>> | null,
  ): Grant<L> {
    if (found && may(line, found.relation))
      return new Grant(line, person, found.thing, found.relation);
    refuseSealed({ sealed: found !== null && OF_ARCHIVES.includes(found.relation) });
    if (found && !OF_STUDENTS.includes(found.relation))
      throw new Refusal(403, 'You can see this, but not do that with it.');
    throw new Refusal(404, 'There is no such page here, or it is not yours to see.');
  }
}

/** Whether a page is what a line is about: a copy, a material or a work, or any. */
function isOfKind(line: AccessLine, { kind, area }: PageThing): boolean {
  const isOfStudents = kind === 'copy' || kind === 'own page';
  switch (ACCESS[line].thing) {
    case 'copy':
      return kind === 'copy';
    case 'material':
      return !isOfStudents;
    case 'work':
      return isOfStudents || area === 'worktable';
    default:
      return true;
  }
}

/** The lines about pages of one kind, or of any. */
export type LineOnPage = LineAbout<'page' | 'copy' | 'material' | 'work'>;

/** A page, where it is what the line is about. */
export const ofItsKind = <L extends LineOnPage>(
  line: L,
  found: FoundPage | null,
): FoundThing<ThingOf<L>> | null => (found && isOfKind(line, found.thing) ? found : null);
