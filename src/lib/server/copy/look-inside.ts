import { partsOf, type Part } from '$core/page/parts';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readCopy } from './facts';
import { readRecord, readSittings, type RecordEntry, type StudentSitting } from './open-copy';

export interface PeekInside {
  page: string;
  parts: Part[];
  /** The part to show: the last one that has an answer. */
  latest: Part | null;
  sittings: StudentSitting[];
  record: RecordEntry[];
  /** When what is shown here was handed in, in epoch milliseconds. */
  handedIn: number | null;
}

/** A look inside a copy, for the staff. */
export async function lookInside(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'look inside'>,
): Promise<PeekInside> {
  const { facts } = await readCopy(app.db, thing.id, person.id);
  const held = await app.pages.open(thing.id);
  const parts = partsOf(held.doc);
  return {
    page: thing.id,
    parts,
    latest: parts.findLast((part) => part.answer !== '') ?? null,
    sittings: await readSittings(app, thing.id),
    record: await readRecord(app, thing.id),
    handedIn: facts.handedIn,
  };
}
