import type { Node } from 'prosemirror-model';
import {
  AddMarkStep,
  Mapping,
  RemoveMarkStep,
  ReplaceStep,
  type Mappable,
  type Step,
  type StepMap,
} from 'prosemirror-transform';
import { moveAnchor, type Anchor } from '../history/anchor';

/**
 * A change that is offered and not done: it lies beside the page, at one version of it, and never in the page. So whatever reads
 * the page (parts, checks, counts, archives) sees it without what is only proposed.
 */
export interface Offer {
  /** Each on the page as the ones before it leave it. */
  steps: readonly Step[];
  /** What of the page it takes out. It has a place as long as all of that is untouched. */
  takesOut: readonly Anchor[];
  /** Of an offer that takes nothing out: the words that it belongs to, of which one must be left. */
  beside: readonly Anchor[];
}

const onlyMarks = (step: Step) => step instanceof AddMarkStep || step instanceof RemoveMarkStep;

/** Whether a change leaves a range as it is: nothing of it goes, nothing comes into it. */
function leaves({ from, to }: Anchor, change: StepMap): boolean {
  let untouched = true;
  change.forEach((start, end) => {
    untouched &&= end <= from || start >= to;
  });
  return untouched;
}

/** What is left of words after a change, without what was written over them; null for nothing. */
function leftOf({ from, to }: Anchor, change: StepMap): Anchor | null {
  let [start, end] = [from, to];
  change.forEach((gone, until) => {
    if (gone <= start && until > start) start = Math.min(until, end);
    if (until >= end && gone < end) end = Math.max(gone, start);
  });
  return start < end ? { from: change.map(start, 1), to: change.map(end, -1) } : null;
}

/** An insertion stays behind the word before it, whatever is typed at its place. */
const keepingLeft = (over: Mapping): Mappable => ({
  map: (place) => over.map(place, -1),
  mapResult: (place) => over.mapResult(place, -1),
});

/**
 * An offer after a change of its page, still with its words; null when they are gone. It never lands elsewhere.
 * A change that touches what it takes out ends it, as does one that takes away all the words beside it.
 */
export function follow(offer: Offer, change: StepMap): Offer | null {
  if (!offer.takesOut.every((range) => leaves(range, change))) return null;
  const beside = offer.beside.map((words) => leftOf(words, change));
  if (beside.length > 0 && beside.every((words) => words === null)) return null;

  const steps: Step[] = [];
  // Of each step what takes it back, the change, and the step again: as in rebasing.
  let [undone, done]: [StepMap[], StepMap[]] = [[], []];
  const [first] = beside;
  const [start] = offer.steps;
  const staysLeft =
    offer.steps.length === 1 &&
    start instanceof ReplaceStep &&
    first !== null &&
    first !== undefined &&
    (offer.beside[0]?.to ?? Infinity) <= start.from;
  for (const step of offer.steps) {
    const over = new Mapping();
    for (const map of undone) over.appendMap(map);
    over.appendMap(change);
    done.forEach((map, index) => over.appendMap(map, undone.length - 1 - index));
    const moved = step.map(staysLeft ? keepingLeft(over) : over);
    if (!moved && !onlyMarks(step)) return null;
    undone = [step.getMap().invert(), ...undone];
    // A mark that has no letters left is none; it maps nothing.
    done = [...done, moved ? moved.getMap() : step.getMap()];
    if (moved) steps.push(moved);
  }
  if (steps.length === 0) return null;
  return {
    steps,
    takesOut: offer.takesOut.map((range) => moveAnchor(range, change)),
    beside: beside.filter((words) => words !== null),
  };
}

/** The same over several changes, one after the other. */
export const followAll = (offer: Offer, changes: readonly StepMap[]): Offer | null =>
  changes.reduce<Offer | null>((now, change) => now && follow(now, change), offer);

/** The page with it; null where it does not fit: its words are there, but stand in other blocks than it was made for. */
export function taken(page: Node, offer: Offer): Node | null {
  let now = page;
  for (const step of offer.steps) {
    const { doc } = step.apply(now);
    if (!doc) return null;
    now = doc;
  }
  try {
    now.check();
  } catch {
    return null;
  }
  return now;
}
