import { sql } from 'kysely';
import type { App } from '../app';
import { writeSnapshots } from '../page/write-changes';
import { Refusal } from '../page/refusal';

export interface HandOut {
  original: string;
  class: string;
  unit: string | null;
  title: string;
  instructions: string;
  /** A decimal text; null for no points. */
  points: string | null;
  guarded: boolean;
  due: Date | null;
  by: string;
  at: Date;
  /** The browser's own mark of this hand-out: pressing twice makes one assignment. */
  id: string;
}

/**
 * Hands an original out *one each*: the assignment and a copy for every student now in the class, in one transaction.
 * @returns how many copies were made
 */
export async function handOut(app: App, wish: HandOut): Promise<{ copies: number }> {
  const held = await app.pages.open(wish.original);
  const made = await app.db.transaction().execute(async (tx) => {
    const original = await tx
      .selectFrom('page')
      .select(['school_id', 'kind', 'version'])
      .where('id', '=', wish.original)
      .forShare()
      .executeTakeFirst();
    if (original?.kind !== 'original')
      throw new Refusal(404, 'This original does not exist any more.');
    if (original.version !== held.version)
      throw new Refusal(
        409,
        'The original was changed at this very moment. Please look at it and hand out again.',
      );
    const school_id = original.school_id;
    const first = await tx
      .insertInto('assignment')
      .values({
        ...{ id: wish.id, school_id, title: wish.title, instructions: wish.instructions },
        ...{ points: wish.points, guarded: wish.guarded, made_by: wish.by, made_at: wish.at },
      })
      .onConflict((conflict) => conflict.column('id').doNothing())
      .returning('id')
      .executeTakeFirst();
    if (!first) throw new Refusal(409, 'This was handed out already.');
    if (held.hasNews)
      await writeSnapshots(tx, wish.at, [{ id: wish.original, school: school_id, held }]);
    await tx
      .insertInto('assignment_class')
      .values({
        ...{ assignment_id: wish.id, school_id, class_id: wish.class, unit_id: wish.unit },
        ...{ handed_out_at: wish.at, due_at: wish.due },
      })
      .execute();
    await tx
      .insertInto('assignment_original')
      .values({
        ...{ assignment_id: wish.id, school_id, page_id: wish.original },
        ...{ version: held.version, delivery: 'one each' },
      })
      .execute();
    const copies = await sql`
      insert into page (school_id, kind, title, source_id, source_version, assignment_id, class_id, student_id,
        guarded, made_at)
      select school_id, 'copy', ${wish.title}, ${wish.original}::uuid, ${held.version}::int, ${wish.id}::uuid,
        class_id, person_id, ${wish.guarded}::boolean, ${wish.at}::timestamptz
      from enrolment where class_id = ${wish.class} and left_at is null`.execute(tx);
    return Number(copies.numAffectedRows);
  });
  app.news.tell({
    ...{ page: null, version: 0, places: [wish.class], student: null, studentsOf: wish.class },
    ...{ record: true, at: wish.at.getTime() },
  });
  return { copies: made };
}
