import type { CodeList } from '../formats/code-list';

/** A code as it is kept. */
export interface KeptCode {
  id: string;
  code: string;
  statement: string;
  /** Of an earlier reading, named no more. */
  away: boolean;
}

/** What a list that is read again does to the one that is kept. */
export interface CodeChanges {
  /** For each code of the list, the kept one that it is; null for a new one. */
  ids: (string | null)[];
  added: number;
  changed: number;
  /** Those that the list names no more. */
  gone: string[];
}

/** A code is known by its sign; one without, by what it says. */
const nameOf = ({ code, statement }: { code: string; statement: string }) =>
  code === '' ? `says ${statement}` : `code ${code}`;

export function codeChanges(kept: readonly KeptCode[], list: CodeList): CodeChanges {
  const known = new Map(kept.map((one) => [nameOf(one), one]));
  const ids: (string | null)[] = [];
  let added = 0;
  let changed = 0;
  for (const one of list.codes) {
    const was = known.get(nameOf(one));
    known.delete(nameOf(one));
    ids.push(was?.id ?? null);
    if (!was || was.away) added += 1;
    else if (was.statement !== one.statement) changed += 1;
  }
  const gone = [...known.values()].filter(({ away }) => !away).map(({ id }) => id);
  return { ids, added, changed, gone };
}
