import { json, type RequestEvent } from '@sveltejs/kit';
import { sittingsOf, type Sitting } from '$core/history/sittings';
import { partsOf, type Part } from '$core/page/parts';
import { allowOnPage } from '$server/access/allow';
import { readCopy } from '$server/copy/facts';
import { readRecord, writingTimes, type RecordEntry } from '$server/copy/open-copy';

export interface PeekInside {
  page: string;
  parts: Part[];
  /** The part to show: the last one that has an answer. */
  latest: Part | null;
  sittings: Sitting[];
  record: RecordEntry[];
  /** When what is shown here was handed in, in epoch milliseconds. */
  handedIn: number | null;
}

/** A look inside a copy, for the staff. */
export const GET = allowOnPage(
  'look inside',
  async (_event: RequestEvent, { app, person, thing }) => {
    const { facts } = await readCopy(app.db, thing.id, person.id);
    const held = await app.pages.open(thing.id);
    const parts = partsOf(held.doc);
    const inside: PeekInside = {
      page: thing.id,
      parts,
      latest: parts.findLast((part) => part.answer !== '') ?? null,
      sittings: sittingsOf(await writingTimes(app, thing.id)),
      record: await readRecord(app, thing.id),
      handedIn: facts.handedIn,
    };
    return json(inside);
  },
);
