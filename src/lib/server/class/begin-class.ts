import type { Database } from '../db/connect';
import { inTransaction } from '../db/transaction';

/** A new class, closed, led by who makes it. @returns its id */
export async function beginClass(
  db: Database,
  lead: { id: string; school_id: number },
  wish: { name: string; course: string; term: string },
): Promise<string> {
  return inTransaction(db, async (tx) => {
    const { school_id } = lead;
    const { id } = await tx
      .insertInto('class')
      .values({ school_id, course_id: wish.course, term_id: wish.term, name: wish.name })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .insertInto('class_staff')
      .values({ school_id, class_id: id, person_id: lead.id, kind: 'lead' })
      .execute();
    return id;
  });
}
