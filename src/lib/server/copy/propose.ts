import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { guardedTextKept } from '$core/page/guard';
import { schema } from '$core/page/schema';
import { describe } from '$core/proposals/describe';
import { offerOf } from '$core/proposals/make-offer';
import { taken, type Offer } from '$core/proposals/offer';
import { offerToJson, stateAfter } from '$core/proposals/proposal';
import type { Grant } from '../access/grant';
import { picturesIn, placePictures } from '../file/files';
import { inTransaction, type Tx } from '../db/transaction';
import { readPage } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { lockPage } from './lock-page';
import { readKeptProposals } from './proposals';
import { publishMargin } from './publish-margin';
import { tellOfProposals } from './tell-of-feedback';

interface NewProposals {
  /** The version of the page that they stand on. */
  version: number;
  proposals: readonly { steps: readonly object[] }[];
  /** Whether their students hear of them when the copy goes back. */
  keptBack: boolean;
}

/** More than an editor makes of one place. */
const MOST_LETTERS = 50_000;

/** So many stand in one copy. */
const MOST_OPEN = 500;
const countOpen = (tx: Tx, page: string) =>
  tx
    .selectFrom('proposal')
    .select((eb) => eb.fn.countAll().as('open'))
    .where('page_id', '=', page)
    .where((eb) =>
      eb.not(
        eb.exists(
          eb
            .selectFrom('proposal_decision')
            .select('id')
            .whereRef('proposal_id', '=', 'proposal.id'),
        ),
      ),
    )
    .executeTakeFirstOrThrow();

/** @throws Refusal when it is none that a student could take */
function checkedOffer(page: Node, json: readonly object[], guarded: boolean): Offer {
  if (JSON.stringify(json).length > MOST_LETTERS)
    throw new Refusal(413, 'This is too much for one proposal. Please make it in smaller pieces.');
  let offer: Offer;
  try {
    const steps = json.map((step) => Step.fromJSON(schema, step));
    offer = offerOf(page, steps);
  } catch {
    throw new Refusal(422, 'This change is not one that a page can take.');
  }
  const then = taken(page, offer);
  if (!then || then.eq(page)) throw new Refusal(422, 'This change does not fit the page.');
  if (guarded && !guardedTextKept(page, then))
    throw new Refusal(422, 'The page’s own text is guarded: changes are proposed in the answers.');
  return offer;
}

/** Offers changes of a copy. @throws Refusal; then none is made */
export async function propose(
  app: Using<'db' | 'findPage' | 'pages' | 'news'>,
  grant: Grant<'mark'>,
  { version, proposals, keptBack }: NewProposals,
): Promise<void> {
  const { thing, person } = grant;
  const now = await app.pages.open(thing.id);
  if (version > now.version)
    throw new Refusal(409, 'This page is newer than the one that is kept. Please open it again.');
  const origin = { ...thing, version: now.version };
  const { doc } = version === now.version ? now : await readPage(app.db, origin, version);
  const rows = proposals.map(({ steps }) => {
    const offer = checkedOffer(doc, steps, thing.guarded);
    return {
      ...describe(doc, offer),
      school_id: thing.school_id,
      page_id: thing.id,
      person_id: person.id,
      version,
      offer: JSON.stringify(offerToJson(offer)),
      kept_back: keptBack,
    };
  });
  // Whoever takes it finds its pictures.
  const steps = proposals.flatMap((one) => one.steps);
  await placePictures(app, person, thing.id, picturesIn(steps));
  const changed = await inTransaction(app.db, async (tx) => {
    const row = await lockPage(tx, thing.id);
    const { open } = await countOpen(tx, thing.id);
    if (Number(open) + rows.length > MOST_OPEN)
      throw new Refusal(413, `A copy takes ${MOST_OPEN} proposals. Withdraw some first.`);
    // In their order, by the clock of the events: what was written before a hand-back goes with it.
    for (const [index, values] of rows.entries())
      await tx
        .insertInto('proposal')
        .values({ ...values, at: sql<Date>`now() + ${index} * interval '1 microsecond'` })
        .execute();
    if (!keptBack) await tellOfProposals(tx, grant, rows.length);
    return row;
  });
  publishMargin(app, thing.id, changed, keptBack);
}

/** Takes back what one proposed oneself and nobody has decided. @throws Refusal */
export async function withdrawProposals(
  app: Using<'db' | 'news'>,
  { thing, person }: Grant<'mark'>,
  ids: readonly string[],
): Promise<void> {
  const changed = await inTransaction(app.db, async (tx) => {
    const row = await lockPage(tx, thing.id);
    const all = await readKeptProposals(tx, thing.id, { isStudent: false });
    const own = all.filter(
      (one) =>
        ids.includes(one.id) && one.person === person.id && stateAfter(one.decided) === 'open',
    );
    if (own.length < ids.length)
      throw new Refusal(409, 'This is decided already, or not yours. Please look again.');
    await tx
      .insertInto('proposal_decision')
      .values(
        own.map(({ id }) => ({
          school_id: row.school_id,
          proposal_id: id,
          person_id: person.id,
          kind: 'withdrawn' as const,
        })),
      )
      .execute();
    return { row, keptBack: own.every((one) => one.kept_back) };
  });
  publishMargin(app, thing.id, changed.row, changed.keptBack);
}
