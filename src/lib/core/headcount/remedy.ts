import type { Cause, Gap } from './gap';

/** What closes a gap. */
export const DEEDS = [
  'give',
  'put back',
  'move',
  'remind',
  'ask',
  'look',
  'collect',
  'excuse',
  'accept',
] as const;
export type Deed = (typeof DEEDS)[number];

const REMEDIES: Record<Cause, readonly [Deed, ...Deed[]]> = {
  'never made': ['give', 'excuse'],
  removed: ['give', 'accept'],
  emptied: ['put back', 'accept', 'ask'],
  'pasted over': ['put back', 'accept', 'ask'],
  'worked elsewhere': ['move', 'accept', 'ask'],
  'wrong assignment': ['move', 'accept', 'ask'],
  attached: ['remind', 'collect'],
  'cannot be read': ['ask', 'accept'],
  'cannot be opened': ['ask', 'look', 'accept'],
  left: ['accept'],
};

/** What can be done about a gap, the best first. */
export const remediesOf = ({ cause }: Pick<Gap, 'cause'>): readonly [Deed, ...Deed[]] =>
  REMEDIES[cause];

/** Whether a deed can be undone: a message that was sent cannot, nor a look. */
export const canBeUndone = (deed: Deed): boolean => !['remind', 'ask', 'look'].includes(deed);
