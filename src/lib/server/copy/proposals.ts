import { sql } from 'kysely';
import { Step, type StepMap } from 'prosemirror-transform';
import { schema } from '$core/page/schema';
import { followAll, type Offer } from '$core/proposals/offer';
import {
  offerFromJson,
  offerToJson,
  stateAfter,
  type DecisionKind,
  type OfferJson,
  type ProposalView,
  type ProposalWords,
} from '$core/proposals/proposal';
import type { HeldPage, HeldStep } from '../page/held-page';
import { readSteps, type Connection } from '../page/page-store';
import { PROPOSAL_SENT } from './sent';
import type { Viewer } from './viewer';

/** One as it is kept, with its last decision. */
export interface KeptProposal extends ProposalWords {
  id: string;
  /** Who proposed it. */
  person: string;
  by: string;
  at: Date;
  kept_back: boolean;
  /** The version that `offer` stands on. */
  version: number;
  offer: OfferJson;
  decided: DecisionKind | null;
  decided_by: string | null;
  decided_name: string | null;
  decided_at: Date | null;
  /** The versions before and after, of one that was taken. */
  first_version: number | null;
  taken_version: number | null;
}

/** The proposals of a copy, in the order in which they were made. */
export async function readKeptProposals(
  db: Connection,
  page: string,
  { isStudent }: Pick<Viewer, 'isStudent'>,
): Promise<KeptProposal[]> {
  const { rows } = await sql<KeptProposal>`
    select proposal.id, proposal.person_id as person, coalesce(nullif(maker.called, ''), maker.given) as by,
      proposal.at, proposal.kind, was, becomes, not ${PROPOSAL_SENT} as kept_back,
      coalesce(anew.version, proposal.version) as version, coalesce(anew.offer, proposal.offer) as offer,
      last.kind as decided, last.person_id as decided_by, last.at as decided_at,
      coalesce(nullif(decider.called, ''), decider.given) as decided_name,
      last.first_version, last.version as taken_version
    from proposal join person maker on maker.id = proposal.person_id
    left join lateral (select * from proposal_decision where proposal_id = proposal.id order by id desc limit 1) last on true
    left join lateral (select version, offer from proposal_decision
      where proposal_id = proposal.id and kind = 'undone' order by id desc limit 1) anew on true
    left join person decider on decider.id = last.person_id
    where proposal.page_id = ${page} ${isStudent ? sql`and ${PROPOSAL_SENT}` : sql``}
    order by proposal.at, proposal.id`.execute(db);
  return rows;
}

/** What changed a page since a version, from memory where it is there. */
async function mapsSince(
  db: Connection,
  { page, memory, version: to, logged = to }: Place,
  from: number,
): Promise<StepMap[]> {
  const remembered = (since: number) => (memory.version >= to ? memory.since(since) : null);
  const maps = (steps: readonly HeldStep[]) =>
    steps.flatMap(({ version, step }) => (version <= to ? [step.getMap()] : []));
  const all = remembered(from);
  if (all) return maps(all);
  const rows = await readSteps(db, page, from, logged);
  const read = rows.map(({ body }) => Step.fromJSON(schema, body).getMap());
  return logged < to ? [...read, ...maps(remembered(logged) ?? [])] : read;
}

interface Place {
  page: string;
  /** The page as this process remembers it. */
  memory: HeldPage;
  version: number;
  /** The version that the log has: less within a transaction that changes the page. */
  logged?: number;
}

/** How proposals that are open stand at a version of their page; null for one whose words are gone. */
export async function placeOpen(
  db: Connection,
  at: Place,
  all: readonly KeptProposal[],
): Promise<Map<string, Offer | null>> {
  const open = all.filter(({ decided }) => stateAfter(decided) === 'open');
  if (open.length === 0) return new Map();
  const from = Math.min(...open.map((one) => one.version));
  const maps = await mapsSince(db, at, from);
  return new Map(
    open.map((one) => [
      one.id,
      followAll(offerFromJson(one.offer), maps.slice(one.version - from)),
    ]),
  );
}

/**
 * The proposals of a page, as they stand at a version of it, for one who looks.
 * @param unseen whose proposals they do not see
 */
export async function readProposals(
  db: Connection,
  at: Place,
  viewer: Viewer,
  unseen: readonly string[] = [],
): Promise<ProposalView[]> {
  const kept = await readKeptProposals(db, at.page, viewer);
  const all = kept.filter(({ person }) => !unseen.includes(person));
  const places = await placeOpen(db, at, all);
  return all.map((one) => {
    const { id, kind, was, becomes, by, kept_back: keptBack, decided, decided_at } = one;
    const offer = places.get(id);
    return {
      id,
      kind,
      was,
      becomes,
      by,
      keptBack,
      own: one.person === viewer.id,
      at: one.at.getTime(),
      state: stateAfter(decided),
      decided:
        decided && decided_at
          ? {
              by: one.decided_name ?? '',
              own: one.decided_by === viewer.id,
              at: decided_at.getTime(),
            }
          : null,
      offer: offer ? offerToJson(offer) : null,
    };
  });
}
