import type { Attached } from '../../src/lib/core/attached/attached';
import type { CopyRow } from '../../src/lib/core/copy/copy-row';
import { reduceEvents } from '../../src/lib/core/copy/reduce';
import type { CopyFacts } from '../../src/lib/core/copy/state';

const { openers, ...handing } = reduceEvents([], '');

/** A file that Ada attached at the time 5. */
export const attachedFile = (of: Partial<Attached> = {}): Attached => ({
  id: 'file',
  kind: 'file',
  name: 'sketch.pdf',
  type: 'application/pdf',
  size: 10,
  at: 5,
  found: 'fine',
  isPage: false,
  kept: null,
  ...of,
});

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
