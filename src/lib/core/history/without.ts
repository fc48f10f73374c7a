import type { Node } from 'prosemirror-model';
import { Mapping, ReplaceStep, type Step } from 'prosemirror-transform';

/** So many steps are gone through; of a longer history what came before the first unwanted step counts. */
const MOST_STEPS = 3_000;

/**
 * A page as it would be if some of its steps had never been made. A wanted step that has no place then is left out, too;
 * what it typed is not.
 * @param start the page before the first step
 * @param steps in their order, fitting `start`
 */
export function without(start: Node, steps: readonly { step: Step; unwanted: boolean }[]): Node {
  const first = steps.findIndex(({ unwanted }) => unwanted);
  if (first < 0) return replay(start, steps);
  let page = replay(start, steps.slice(0, first));
  if (steps.length - first > MOST_STEPS) return page;
  // From the page with everything to the page without: undo what was done since, then do again what is wanted.
  let mapping = new Mapping();
  for (const { step, unwanted } of steps.slice(first)) {
    const undo = step.getMap().invert();
    const mapped = unwanted ? null : movedTo(step, mapping);
    const result = mapped ? safely(() => mapped.apply(page).doc) : null;
    const maps = [undo, ...mapping.maps];
    const mirror = mirrorsOf(mapping).map((index) => index + 1);
    if (mapped && result) {
      maps.push(mapped.getMap());
      mirror.push(0, maps.length - 1);
      page = result;
    }
    mapping = new Mapping(maps, mirror);
  }
  return page;
}

/** What somebody typed inside of what is left out stays: it moves to where that was. */
function movedTo(step: Step, mapping: Mapping): Step | null {
  if (!(step instanceof ReplaceStep) || step.slice.size === 0) return step.map(mapping);
  const alive = { deleted: false, deletedBefore: false, deletedAfter: false, deletedAcross: false };
  return step.map({
    map: (place, side) => mapping.map(place, side),
    mapResult: (place, side) => ({ ...alive, pos: mapping.map(place, side) }),
  });
}

const replay = (start: Node, steps: readonly { step: Step }[]): Node =>
  steps.reduce((page, { step }) => step.apply(page).doc ?? page, start);

function safely(apply: () => Node | null): Node | null {
  try {
    const page = apply();
    page?.check();
    return page;
  } catch {
    return null;
  }
}

/** The pairs of maps that undo each other, by their places: "0, 3" says that the fourth does what the first undid. */
function mirrorsOf(mapping: Mapping): number[] {
  const pairs: number[] = [];
  mapping.maps.forEach((_, index) => {
    const other = mapping.getMirror(index);
    if (other !== undefined && other > index) pairs.push(index, other);
  });
  return pairs;
}
