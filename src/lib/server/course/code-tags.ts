import { sql } from 'kysely';
import { z } from 'zod';
import { grouped } from '$core/lists/grouped';
import { listed } from '$core/lists/listed';
import { readRubric } from '$core/marking/rubric';
import type { Database } from '../db/connect';
import type { Connection } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { inTransaction, type Tx } from '../db/transaction';
import { holderOf, type Holding } from './units';

/** What a code can be put on. */
const CodeTarget = z.union([
  z.object({ page: z.uuid() }),
  z.object({ rubric: z.uuid(), criterion: z.string().max(40) }),
  z.object({ assignment: z.uuid() }),
]);
type CodeTarget = z.infer<typeof CodeTarget>;
export const Tagging = z.object({ on: CodeTarget, codes: z.array(z.uuid()).max(200) });

const columnsOf = (on: CodeTarget) => ({
  page_id: 'page' in on ? on.page : null,
  rubric_id: 'rubric' in on ? on.rubric : null,
  criterion: 'rubric' in on ? on.criterion : null,
  assignment_id: 'assignment' in on ? on.assignment : null,
});

/** A course has pages and rubrics to put codes on; a class, what was handed out in it. */
async function stands(tx: Tx, on: CodeTarget, grant: Holding): Promise<boolean> {
  const holder = holderOf(grant);
  if ('class' in holder)
    return (
      'assignment' in on &&
      (await tx
        .selectFrom('assignment_class')
        .select('assignment_id')
        .where('assignment_id', '=', on.assignment)
        .where('class_id', '=', holder.class)
        .executeTakeFirst()) !== undefined
    );
  if ('assignment' in on) return false;
  const [table, id] =
    'page' in on ? (['page', on.page] as const) : (['rubric', on.rubric] as const);
  const row = await tx
    .selectFrom(table)
    .select('id')
    .where('id', '=', id)
    .where('course_id', '=', holder.course)
    .executeTakeFirst();
  return row !== undefined;
}

/** Sets which codes something in a course or class carries. @throws Refusal when it does not stand there */
export async function tag(
  db: Database,
  grant: Holding,
  { on, codes }: z.infer<typeof Tagging>,
): Promise<void> {
  const target = columnsOf(on);
  const { school_id } = grant.thing;
  await inTransaction(db, async (tx) => {
    if (!(await stands(tx, on, grant)))
      throw new Refusal(404, 'What was to carry these codes is not here any more.');
    let old = tx.deleteFrom('code_tag');
    for (const [column, value] of Object.entries(target))
      old = old.where(sql`${sql.ref(column)} is not distinct from ${value}`.$castTo<boolean>());
    await old.execute();
    const known = await tx
      .selectFrom('code')
      .select('id')
      .where('school_id', '=', school_id)
      .where('id', '=', sql<string>`any(${codes}::uuid[])`)
      .execute();
    if (known.length > 0)
      await tx
        .insertInto('code_tag')
        .values(known.map(({ id }) => ({ code_id: id, school_id, ...target })))
        .execute();
  });
}

/** One thing that carries a code. */
export interface Tagged {
  code: string;
  kind: 'page' | 'criterion' | 'assignment';
  /** Of the page, rubric or assignment. */
  id: string;
  /** Of a rubric: which criterion. */
  criterion: string | null;
  title: string;
}

/** What carries codes in a course: its pages, its rubrics' criteria, and what its classes were handed out. */
export async function readTagged(db: Connection, course: string): Promise<Tagged[]> {
  const rows = await db
    .selectFrom('code_tag')
    .leftJoin('page', 'page.id', 'code_tag.page_id')
    .leftJoin('rubric', 'rubric.id', 'code_tag.rubric_id')
    .leftJoin('assignment', 'assignment.id', 'code_tag.assignment_id')
    .select([
      'code_tag.code_id as code',
      'code_tag.criterion',
      'page.id as page',
      'page.title as page_title',
      'rubric.id as rubric',
      'rubric.title as rubric_title',
      'rubric.body',
      'assignment.id as assignment',
      'assignment.title as assignment_title',
    ])
    .where((eb) =>
      eb.or([
        eb.and([eb('page.course_id', '=', course), eb('page.away_at', 'is', null)]),
        eb.and([eb('rubric.course_id', '=', course), eb('rubric.away_at', 'is', null)]),
        eb(
          'assignment.id',
          'in',
          eb
            .selectFrom('assignment_class')
            .innerJoin('class', 'class.id', 'assignment_class.class_id')
            .select('assignment_id')
            .where('class.course_id', '=', course),
        ),
      ]),
    )
    .execute();
  return rows.flatMap((row): Tagged[] => {
    const { code, criterion } = row;
    if (row.page)
      return [{ code, kind: 'page', id: row.page, criterion: null, title: row.page_title ?? '' }];
    if (row.assignment)
      return [
        {
          code,
          kind: 'assignment',
          id: row.assignment,
          criterion: null,
          title: row.assignment_title ?? '',
        },
      ];
    if (!row.rubric) return [];
    const named = readRubric(row.body).criteria.find(({ id }) => id === criterion);
    // A criterion that was taken away carries nothing any more.
    if (!named) return [];
    const title = `${named.title}, in ${row.rubric_title}`;
    return [{ code, kind: 'criterion', id: row.rubric, criterion, title }];
  });
}

/** What was handed out in those classes of a course that a person leads, once each. `klass`: one of them; `names`: all. */
export async function readLedAssignments(db: Connection, course: string, person: string) {
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .innerJoin('class', 'class.id', 'assignment_class.class_id')
    .innerJoin('class_staff', 'class_staff.class_id', 'class.id')
    .select(['assignment.id', 'assignment.title', 'class.id as klass', 'class.name'])
    .where('class.course_id', '=', course)
    .where('class_staff.person_id', '=', person)
    .where('class_staff.kind', 'in', ['lead', 'co-teacher'])
    .orderBy('handed_out_at')
    .orderBy('class.name')
    .execute();
  return [...grouped(rows, ({ id }) => id).values()].flatMap(([first, ...others]) => {
    if (!first) return [];
    const { id, title, klass, name } = first;
    return [{ id, title, klass, names: listed([name, ...others.map((one) => one.name)]) }];
  });
}
