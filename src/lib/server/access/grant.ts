import { Refusal } from '../page/refusal';
import type { AssignmentThing, ClassThing, CourseThing, PageThing } from './relation';
import type { SignedIn } from './session';
import { ACCESS, may, type AccessLine, type Relation } from './table';

/** What a line of the table is about. */
interface Things {
  class: ClassThing;
  course: CourseThing;
  assignment: AssignmentThing;
  page: PageThing;
  copy: PageThing;
  material: PageThing;
}
export type ThingOf<L extends AccessLine> = Things[NonNullable<(typeof ACCESS)[L]['thing']>];

/** A thing as it was found, with what a person is to it. */
export interface FoundThing<Thing> {
  relation: Relation;
  thing: Thing;
}

/**
 * That a person may do what a line of the table says with one very thing. A service that takes a grant cannot be called
 * without the check: there is no other way to make one than to ask `grant`, which looks.
 */
export class Grant<L extends AccessLine = AccessLine> {
  private constructor(
    readonly line: L,
    readonly person: SignedIn,
    readonly thing: ThingOf<L>,
    readonly relation: Relation,
  ) {}

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
    if (
      found &&
      !['nobody', 'student', 'reader', 'owner', 'co-writer', 'writer'].includes(found.relation)
    )
      throw new Refusal(403, 'You can see this, but not do that with it.');
    throw new Refusal(404, 'There is no such page here, or it is not yours to see.');
  }
}
