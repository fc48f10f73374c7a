import { Step } from 'prosemirror-transform';
import { schema } from '$core/page/schema';
import { offerOf } from '$core/proposals/make-offer';
import { followAll, taken, type Offer } from '$core/proposals/offer';
import { offerToJson, stateAfter, type ProposalState } from '$core/proposals/proposal';
import { listed } from '$core/lists/listed';
import type { Grant } from '../access/grant';
import type { Tx } from '../db/transaction';
import type { ChangingPage } from '../page/changing-page';
import { readPage, readSteps } from '../page/page-store';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { placeOpen, readKeptProposals, type KeptProposal } from './proposals';
import { publishMargin } from './publish-margin';

/** What a student does with proposals in a copy of theirs. */
export const DEEDS = ['take', 'leave', 'open again', 'undo'] as const;

interface Deciding {
  tx: Tx;
  page: ChangingPage;
  grant: Grant<'do own work'>;
  client: string;
}

/** Why nothing could be done. */
const NONE: Record<(typeof DEEDS)[number], string> = {
  take: 'Its words have changed since, so it cannot be taken any more. It stays here to be read.',
  leave: 'This was decided already. Please look again.',
  'open again': 'This is open already. Please look again.',
  undo: 'Its words were changed since, so it cannot be undone here. “How it was written” has the page as it was.',
};

async function record(
  { tx, grant }: Deciding,
  proposal: string,
  decision: {
    kind: 'taken' | 'left' | 'opened again' | 'undone';
    first_version?: number;
    version?: number;
    offer?: string;
  },
) {
  const { person, thing } = grant;
  await tx
    .insertInto('proposal_decision')
    .values({
      school_id: thing.school_id,
      proposal_id: proposal,
      person_id: person.id,
      ...decision,
    })
    .execute();
}

/** Decides one that stands like that. */
async function say(
  deciding: Deciding,
  one: KeptProposal,
  from: ProposalState,
  kind: 'left' | 'opened again',
): Promise<boolean> {
  if (stateAfter(one.decided) !== from) return false;
  await record(deciding, one.id, { kind });
  return true;
}

/** Does the steps, which stay their author's; whether they could be done. */
async function doSteps(
  { page, grant, client }: Deciding,
  { steps }: Offer,
  author: string,
): Promise<boolean> {
  const writer = { id: grant.person.id, owner: true };
  try {
    await page.take(writer, client, author, steps);
    return true;
  } catch (error) {
    // The others are taken without it.
    if (error instanceof Refusal) return false;
    throw error;
  }
}

async function take(deciding: Deciding, one: KeptProposal, offer: Offer | null): Promise<boolean> {
  const { page } = deciding;
  const { held } = page;
  if (!offer || !taken(held.doc, offer)) return false;
  if (!(await doSteps(deciding, offer, one.person))) return false;
  await record(deciding, one.id, {
    kind: 'taken',
    first_version: held.version,
    version: page.held.version,
  });
  return true;
}

/** Puts back what one that was taken had changed, where nobody has changed it since; it stands to be decided anew. */
async function undo(deciding: Deciding, one: KeptProposal): Promise<boolean> {
  const { tx, page, grant } = deciding;
  const { row, held } = page;
  const isTaken = stateAfter(one.decided) === 'taken';
  if (!isTaken || one.first_version === null || one.taken_version === null) return false;
  const origin = { ...grant.thing, version: held.version };
  let { doc } = await readPage(tx, origin, one.first_version);
  const back: Step[] = [];
  for (const { body } of await readSteps(tx, row.id, one.first_version, one.taken_version)) {
    const step = Step.fromJSON(schema, body);
    back.unshift(step.invert(doc));
    doc = step.apply(doc).doc ?? doc;
  }
  const since = await readSteps(tx, row.id, one.taken_version, row.version);
  const maps = [
    ...since.map(({ body }) => Step.fromJSON(schema, body).getMap()),
    ...page.steps.map(({ body }) => Step.fromJSON(schema, body).getMap()),
  ];
  const offer = followAll(offerOf(doc, back), maps);
  if (!offer || !taken(held.doc, offer)) return false;
  if (!(await doSteps(deciding, offer, grant.person.id))) return false;
  // What was taken back, the other way round, is how it stands now.
  const again: Step[] = [];
  let then = held.doc;
  for (const step of offer.steps) {
    again.unshift(step.invert(then));
    then = step.apply(then).doc ?? then;
  }
  await record(deciding, one.id, {
    kind: 'undone',
    first_version: held.version,
    version: page.held.version,
    offer: JSON.stringify(offerToJson(offerOf(then, again))),
  });
  return true;
}

/**
 * Takes proposals into a copy, or leaves them, in the order in which they were made. What has no place any more stays as it is.
 * @returns a sentence when not all could be done
 * @throws Refusal when none could
 */
export async function decideProposals(
  app: Using<'pages' | 'news'>,
  grant: Grant<'do own work'>,
  { deed, ids }: { deed: (typeof DEEDS)[number]; ids: readonly string[] },
): Promise<string | null> {
  const { thing, person } = grant;
  const outcome: { refused: string[]; row: Parameters<typeof publishMargin>[2] | null } = {
    refused: [],
    row: null,
  };
  await app.pages.change(thing.id, { id: person.id, owner: true }, async (tx, page, client) => {
    const deciding = { tx, page, grant, client };
    const asked = (await readKeptProposals(tx, thing.id, { isStudent: true })).filter(({ id }) =>
      ids.includes(id),
    );
    const { held, from } = page;
    const at = { page: thing.id, memory: held, version: held.version, logged: from };
    const places = await placeOpen(tx, at, asked);
    const done = {
      take: (one: KeptProposal) => {
        const since = page.held.since(held.version) ?? [];
        const place = places.get(one.id);
        const offer = place
          ? followAll(
              place,
              since.map(({ step }) => step.getMap()),
            )
          : null;
        return take(deciding, one, offer);
      },
      leave: (one: KeptProposal) => say(deciding, one, 'open', 'left'),
      'open again': (one: KeptProposal) => say(deciding, one, 'left', 'opened again'),
      undo: (one: KeptProposal) => undo(deciding, one),
    }[deed];
    const refused: string[] = [];
    for (const one of asked) if (!(await done(one))) refused.push(one.becomes || one.was);
    if (refused.length === asked.length) throw new Refusal(409, NONE[deed]);
    outcome.refused = refused;
    outcome.row = { ...page.row, version: page.held.version };
  });
  const { refused, row } = outcome;
  if (row) publishMargin(app, thing.id, row);
  const which = listed(refused.map((words) => `“${words.slice(0, 40)}”`));
  return refused.length === 0 ? null : `${which} could not be done: its words have changed since.`;
}
