import type { CopyRow } from '../../src/lib/core/copy/copy-row';
import { reduceEvents } from '../../src/lib/core/copy/reduce';
import type { CopyFacts } from '../../src/lib/core/copy/state';

const { openers, ...handing } = reduceEvents([], '');

/** What is known of a copy to which nothing happened. */
export const NO_FACTS: CopyFacts = {
  ...handing,
  written: null,
  attached: null,
  scored: null,
  due: null,
  allowance: null,
};

/** Ada's copy of one each, to which nothing happened but what is said. */
export const copyRow = (
  of: Partial<Omit<CopyRow, 'facts'>> & { facts?: Partial<CopyFacts> } = {},
): CopyRow => ({
  id: 'copy',
  assignment: 'sketch',
  class: '8C',
  student: 'ada',
  members: ['ada'],
  openers,
  group: '',
  delivery: 'one each',
  for: 'original',
  replaced: false,
  mask: '00',
  words: 0,
  version: 0,
  score: null,
  points: null,
  pointsBack: null,
  loss: null,
  attached: [],
  each: null,
  ...of,
  facts: { ...NO_FACTS, ...of.facts },
});
