import type { ThreadView } from '$core/copy/threads';
import type { NewSince } from '$core/history/changed-ranges';
import { partsOf, type Part } from '$core/page/parts';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readCopy } from './facts';
import { readLastPlace, readNewSince, readSeen } from './new-since';
import { readRecord, readSittings, type RecordEntry, type StudentSitting } from './open-copy';
import { readMargin } from './threads';
import { viewerOf } from './viewer';

export interface PeekInside {
  page: string;
  doc: object;
  version: number;
  /** Where its students wrote last, as a position of the page; null where they wrote nothing. */
  lastPlace: number | null;
  /** What is new to who looks; null where they never looked before. */
  newSince: NewSince | null;
  parts: Part[];
  sittings: StudentSitting[];
  record: RecordEntry[];
  /** What is open in its margin. */
  threads: ThreadView[];
  /** When what is shown here was handed in, in epoch milliseconds. */
  handedIn: number | null;
}

/**
 * A look inside a copy, for the staff.
 * @param since the version that they know, for what is new; what they looked at last where it is null
 */
export async function lookInside(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'look inside'>,
  since: number | null,
): Promise<PeekInside> {
  const { facts } = await readCopy(app.db, thing.id, person.id);
  const held = await app.pages.open(thing.id);
  const seen = await readSeen(app.db, thing.id, person.id, since);
  const { threads } = await readMargin(app, thing.id, viewerOf(person));
  return {
    page: thing.id,
    doc: held.doc.toJSON() as object,
    version: held.version,
    lastPlace: await readLastPlace(app.db, thing.id, held.version),
    newSince: seen && (await readNewSince(app.db, thing.id, held.version, seen)),
    parts: partsOf(held.doc),
    threads: threads.filter(({ settled }) => !settled),
    sittings: await readSittings(app, thing.id),
    record: await readRecord(app, thing.id),
    handedIn: facts.handedIn,
  };
}
