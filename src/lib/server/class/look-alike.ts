import { setImmediate } from 'node:timers/promises';
import type { Node } from 'prosemirror-model';
import { lettersOf } from '$core/alike/letters';
import { findAlike, passagesOf, type SharedPassage } from '$core/alike/shared-passages';
import { asksForWork } from '$core/copy/state';
import { listed } from '$core/lists/listed';
import type { Grant } from '../access/grant';
import { readCopies } from '../copy/facts';
import type { Database } from '../db/connect';
import { readNewest, readOrigins, readPage } from '../page/page-store';
import { readStudents } from './board';

/** A copy that shares passages with another. */
interface Side {
  copy: string;
  /** "Fennick, Ada", or all who share it. */
  name: string;
}

interface Passage {
  copies: Side[];
  /** Letters and digits. */
  letters: number;
  /** As the first of them has it. */
  text: string;
}

/** Two copies side by side. */
interface Beside {
  one: Side & { doc: object };
  other: Side & { doc: object };
  passages: SharedPassage[];
}

/** Longer passages are cut in a list. */
const MOST_SHOWN = 160;

/**
 * Which copies of an assignment in a class share passages that are not the original's, the longest first.
 * @param of two of them, which are to be shown side by side
 */
export async function viewLookAlike(
  db: Database,
  { thing, person }: Grant<'see the assignment'>,
  of: readonly string[],
): Promise<{ title: string; copies: number; passages: Passage[]; beside: Beside | null }> {
  const { title } = await db
    .selectFrom('assignment')
    .select('title')
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const students = await readStudents(db, thing.class.id);
  const copies = (
    await readCopies(db, { class: thing.class.id, assignment: thing.id }, person.id)
  ).filter(asksForWork);
  if (copies.length === 0) return { title, copies: 0, passages: [], beside: null };
  const pages = await readOrigins(
    db,
    copies.map(({ id }) => id),
  );
  const docs = await readNewest(db, pages);
  const began = new Map(
    pages.map((page) => [`${page.source_id} ${page.source_version}`, page] as const),
  );
  const originals: Node[] = [];
  for (const page of began.values()) originals.push((await readPage(db, page, 0)).doc);
  const compared = [];
  for (const { id } of copies) {
    const doc = docs.get(id);
    if (doc) compared.push({ id, lines: lettersOf(doc) });
    await setImmediate();
  }
  const membersOf = new Map(copies.map(({ id, members }) => [id, members]));
  const alike = findAlike(compared, originals.flatMap(lettersOf), (one, other) =>
    (membersOf.get(one) ?? []).some((student) => membersOf.get(other)?.includes(student)),
  );
  const side = (copy: string): Side => ({
    copy,
    name: listed(
      students
        .filter(({ id }) => membersOf.get(copy)?.includes(id))
        .map(({ given, family }) => `${given} ${family}`),
    ),
  });
  const [left = '', right = ''] = of;
  const wanted = alike.find(
    ({ one, other }) => (one === left && other === right) || (one === right && other === left),
  );
  const isTurned = wanted?.one === right;
  const shown = (copy: string) => ({
    ...side(copy),
    doc: (docs.get(copy)?.toJSON() ?? {}) as object,
  });
  return {
    title,
    copies: copies.length,
    passages: passagesOf(alike).map(({ copies, at, letters }) => {
      const text = docs.get(copies[0] ?? '')?.textBetween(at.from, at.to, ' ') ?? '';
      return {
        copies: copies.map(side).sort((a, b) => a.name.localeCompare(b.name)),
        letters,
        text: text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text,
      };
    }),
    beside: wanted
      ? {
          one: shown(left),
          other: shown(right),
          passages: wanted.passages.map((passage) =>
            isTurned ? { ...passage, one: passage.other, other: passage.one } : passage,
          ),
        }
      : null,
  };
}
