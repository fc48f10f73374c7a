import type { Grant } from '../access/grant';

/** From which version on somebody sees a page: students see others' pages from where these came into their sight. */
export function seenFrom({
  thing,
  relation,
  person,
}: Grant<'read the page' | 'write the page' | 'look back' | 'manage the page'>): number {
  const isOfOthers = ['reader', 'co-writer', 'classmate'].includes(relation);
  return isOfOthers && thing.student_id !== person.id ? thing.seen_from : 0;
}
