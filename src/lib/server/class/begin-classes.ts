import { Grant } from '../access/grant';
import { findCourse } from '../access/relation';
import type { Database } from '../db/connect';
import { inTransaction } from '../db/transaction';
import { Refusal } from '../page/refusal';

/** New classes, closed, led by who makes them. @returns their ids @throws Refusal when their course or term is not theirs */
export async function beginClasses(
  db: Database,
  { person: lead }: Grant<'manage courses'>,
  spec: {
    names: readonly string[];
    course: string;
    term: string;
    /** Whether a class of the same name may be there already. */
    same?: boolean;
  },
): Promise<string[]> {
  Grant.ask('see the course', lead, await findCourse(db, lead.id, spec.course));
  return inTransaction(db, async (tx) => {
    const { school_id } = lead;
    const term = await tx
      .selectFrom('term')
      .select('id')
      .where('id', '=', spec.term)
      .where('school_id', '=', school_id)
      .executeTakeFirst();
    if (!term) throw new Refusal(404, 'There is no such term here.');
    const known = await tx
      .selectFrom('class')
      .select('name')
      .where('term_id', '=', spec.term)
      .where('course_id', '=', spec.course)
      .where('name', 'in', spec.names)
      .where('archived_at', 'is', null)
      .executeTakeFirst();
    if (known && !spec.same)
      throw new Refusal(
        409,
        `There is a class ${known.name} of this course in that term already. Is this another one?`,
      );
    const ids: string[] = [];
    for (const name of spec.names) {
      const { id } = await tx
        .insertInto('class')
        .values({ school_id, course_id: spec.course, term_id: spec.term, name })
        .returning('id')
        .executeTakeFirstOrThrow();
      await tx
        .insertInto('class_staff')
        .values({ school_id, class_id: id, person_id: lead.id, kind: 'lead' })
        .execute();
      ids.push(id);
    }
    return ids;
  });
}
