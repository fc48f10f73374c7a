import { setImmediate } from 'node:timers/promises';
import { LRUCache } from 'lru-cache';
import { followParts } from '$core/board/part-pace';
import type { WorkedParts } from '$core/board/stuck';
import { partsOf } from '$core/page/parts';
import { loggedJson, readHistories, readOrigins, type Connection } from '../page/page-store';

interface Known extends WorkedParts {
  version: number;
  members: string;
}

/** What was told of copies from their logs: true of that version for ever. */
const known = new LRUCache<string, Known>({ max: 5000 });

/**
 * How far the parts of copies are and how their students worked on each, from their logs: only those are followed that were
 * changed since somebody asked last.
 */
export async function readWorkedParts(
  db: Connection,
  copies: readonly { id: string; members: readonly string[] }[],
): Promise<Map<string, WorkedParts>> {
  if (copies.length === 0) return new Map();
  const pages = await readOrigins(
    db,
    copies.map(({ id }) => id),
  );
  const membersOf = new Map(copies.map(({ id, members }) => [id, [...members].sort().join(' ')]));
  const isKnown = ({ id, version }: { id: string; version: number }) => {
    const one = known.get(id);
    return one?.version === version && one.members === membersOf.get(id);
  };
  const changed = pages.filter((page) => !isKnown(page));
  const found = new Map(
    pages.filter(isKnown).flatMap(({ id }) => {
      const one = known.get(id);
      return one ? [[id, one] as const] : [];
    }),
  );
  const histories = await readHistories(db, changed, new Date());
  for (const { id } of changed) {
    const history = histories.get(id);
    if (!history) continue;
    const steps = history.steps.map(loggedJson);
    const members = membersOf.get(id) ?? '';
    const { page, paces } = followParts(history.start, steps, new Set(members.split(' ')));
    const version = steps.at(-1)?.version ?? 0;
    const one = { version, members, parts: partsOf(page), paces };
    known.set(id, one);
    found.set(id, one);
    // A year's work is followed one copy at a time: others are answered between.
    await setImmediate();
  }
  return found;
}
