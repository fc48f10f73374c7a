import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { applyStep } from '../history/moment';
import { PAUSE } from '../history/sittings';
import { sizeOfStep, type LoggedJson } from '../history/work-line';
import { isAnswer, schema } from '../page/schema';

/** How somebody worked on a part. */
export interface Pace {
  /** Milliseconds. */
  time: number;
  /** Characters that were typed, and that were taken away again. */
  added: number;
  removed: number;
}

/** The answer that a step changed: its part's id; null for none. */
function partChanged(page: Node, body: object): string | null {
  const place: unknown = Reflect.get(body, 'from') ?? Reflect.get(body, 'pos');
  if (typeof place !== 'number' || place < 0 || place > page.content.size) return null;
  const at = page.resolve(place);
  const around = Array.from({ length: at.depth }, (_, i) => at.node(at.depth - i));
  const answer =
    around.find(isAnswer) ?? (at.nodeAfter && isAnswer(at.nodeAfter) ? at.nodeAfter : null);
  return answer && String(answer.attrs.id);
}

/**
 * How long the students of a copy worked on each of its parts, and how much they rewrote. The time since one's change before
 * belongs to the part that is changed; what comes after a longer pause begins anew.
 * @param start the page before its first step
 * @param students whose steps count
 * @returns the page after its last step; the paces by the parts' ids: a part that nobody changed has none
 */
export function followParts(
  start: Node,
  steps: readonly LoggedJson[],
  students: ReadonlySet<string>,
): { page: Node; paces: Map<string, Pace> } {
  const paces = new Map<string, Pace>();
  const last = new Map<string, number>();
  let page = start;
  for (const { author, at, body } of steps) {
    const part = students.has(author) ? partChanged(page, body) : null;
    if (part !== null) {
      const since = at - (last.get(author) ?? -Infinity);
      last.set(author, at);
      const { added, removed } = sizeOfStep(body);
      const pace = paces.get(part) ?? { time: 0, added: 0, removed: 0 };
      paces.set(part, {
        time: pace.time + (since <= PAUSE ? since : 0),
        added: pace.added + added,
        removed: pace.removed + removed,
      });
    }
    page = applyStep(Step.fromJSON(schema, body), page);
  }
  return { page, paces };
}
