import { standsOf, type PartStands } from '$core/board/part-stands';
import { slowParts, type SlowPart } from '$core/board/slow-parts';
import { asksForWork } from '$core/copy/state';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import { readWorkedParts } from '../copy/worked-parts';
import { readCopyKeys } from '../course/answer-keys';
import type { Database } from '../db/connect';
import { readStudents } from './board';

/** A page of an assignment: its parts across a class. */
interface PageParts {
  /** The original its copies stand for. */
  id: string;
  title: string;
  parts: { id: string; number: number; label: string }[];
  rows: {
    copy: string;
    /** "Fennick, Ada", or all who share it. */
    names: string[];
    /** By the parts' ids; a part that an adapted page does not have is left out. */
    stands: Record<string, PartStands>;
  }[];
  slow: SlowPart[];
}

/** How far each part of an assignment is in each copy of a class, and where many slow down. */
export async function viewParts(
  db: Database,
  { thing, person }: Grant<'see the assignment'>,
): Promise<{ title: string; marksItself: boolean; pages: PageParts[] }> {
  const { title, marking } = await db
    .selectFrom('assignment')
    .select(['title', 'marking'])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const students = await readStudents(db, thing.class.id);
  const copies = (
    await readCopies(db, { class: thing.class.id, assignment: thing.id }, person.id)
  ).filter(asksForWork);
  if (copies.length === 0) return { title, marksItself: marking !== 'by hand', pages: [] };
  const worked = await readWorkedParts(db, copies);
  const sources = await db
    .selectFrom('page')
    .leftJoin('page as original', 'original.id', 'page.for_id')
    .select(['page.id', 'page.source_id as source', 'original.title as of'])
    .where(
      'page.id',
      'in',
      copies.map(({ id }) => id),
    )
    .execute();
  const sourceOf = new Map(sources.map((row) => [row.id, row]));
  const keysOf = new Map<string, Awaited<ReturnType<typeof readCopyKeys>>>();
  for (const { id, for: original } of marking === 'by hand' ? [] : copies) {
    const source = sourceOf.get(id)?.source;
    if (source && !keysOf.has(source))
      keysOf.set(source, await readCopyKeys(db, { source, for: original }));
  }
  const pages = [...grouped(copies, (copy) => copy.for)].map(([id, some]): PageParts => {
    const inside = some.flatMap((copy) => {
      const own = worked.get(copy.id);
      return own ? [{ copy, ...own }] : [];
    });
    const parts = new Map(
      inside.flatMap((one) =>
        one.parts.map(({ id, number, label }) => [id, { id, number, label }] as const),
      ),
    );
    const rows = inside.map(({ copy, parts }) => ({
      copy: copy.id,
      names: students.filter((one) => copy.members.includes(one.id)).map(({ name }) => name),
      stands: standsOf(parts, keysOf.get(sourceOf.get(copy.id)?.source ?? '') ?? {}),
    }));
    return {
      id,
      title: sourceOf.get(some[0]?.id ?? '')?.of ?? '',
      parts: [...parts.values()].sort((a, b) => a.number - b.number),
      rows: rows.sort((a, b) => (a.names[0] ?? '').localeCompare(b.names[0] ?? '')),
      slow: slowParts(inside.map(({ paces }) => paces)).filter(({ part }) => parts.has(part)),
    };
  });
  return { title, marksItself: marking !== 'by hand', pages };
}
