import { Step } from 'prosemirror-transform';
import { schema } from '../page/schema';
import type { Offer } from './offer';

/** What a proposal does, as it is said beside it. */
export const PROPOSAL_KINDS = [
  'insert',
  'delete',
  'replace',
  'divide',
  'join',
  'format',
  'indent',
  'outdent',
  'block',
  'move',
  'change',
] as const;
export type ProposalKind = (typeof PROPOSAL_KINDS)[number];

/** What was decided of a proposal: by its student, or, withdrawn, by its proposer. Of several the last counts. */
export const DECISION_KINDS = ['taken', 'left', 'withdrawn', 'opened again', 'undone'] as const;
export type DecisionKind = (typeof DECISION_KINDS)[number];
export type ProposalState = 'open' | 'taken' | 'left' | 'withdrawn';

/** How a proposal stands after its last decision. */
export const stateAfter = (last: DecisionKind | null): ProposalState =>
  last === null || last === 'opened again' || last === 'undone' ? 'open' : last;

/** An offer as it travels and is kept. */
export interface OfferJson {
  steps: readonly object[];
  takesOut: readonly { from: number; to: number }[];
  beside: readonly { from: number; to: number }[];
}

export const offerToJson = ({ steps, takesOut, beside }: Offer): OfferJson => ({
  steps: steps.map((step) => step.toJSON() as object),
  takesOut,
  beside,
});

/** @throws RangeError when its steps are none of a page */
export const offerFromJson = ({ steps, takesOut, beside }: OfferJson): Offer => ({
  steps: steps.map((json) => Step.fromJSON(schema, json)),
  takesOut,
  beside,
});

/** What it says, in the proposer's words. */
export interface ProposalWords {
  kind: ProposalKind;
  /** The words that it changes; empty where it only puts in. */
  was: string;
  /** What stands there then: words, or how they are written ("bold", "bullet list"). */
  becomes: string;
}

/** A proposal as it is shown beside its page. Instants in epoch milliseconds. */
export interface ProposalView extends ProposalWords {
  id: string;
  by: string;
  /** Whether the person who asks proposed it. */
  own: boolean;
  at: number;
  state: ProposalState;
  /** Who decided it, and when. */
  decided: { by: string; own: boolean; at: number } | null;
  /** Where it stands in the page; null when it is decided, or its words are gone. */
  offer: OfferJson | null;
  /** Its student hears of it when the copy goes back. */
  keptBack: boolean;
}
