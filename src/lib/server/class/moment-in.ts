import { readMoment } from '$core/board/board-view';
import type { Moment } from '../db/as-of';

/** The moment that an address looks back to. What is still to come is looked at as it is now. */
export function momentIn(url: URL): Moment {
  const at = readMoment(url.searchParams.get('at'));
  return at === null || at >= Date.now() ? null : new Date(at);
}
