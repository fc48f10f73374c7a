import { randomInt } from 'node:crypto';

/** Short words that are easy to read out and to type. */
const WORDS = [
  ...['anchor', 'basin', 'beacon', 'boat', 'bridge', 'cable', 'canvas', 'chart', 'cliff', 'cloud'],
  ...[
    'coral',
    'crane',
    'delta',
    'drift',
    'dune',
    'ember',
    'ferry',
    'fjord',
    'foam',
    'gale',
    'gull',
  ],
  ...['harbour', 'heron', 'island', 'kelp', 'lagoon', 'lamp', 'lantern', 'light', 'marsh', 'mast'],
  ...[
    'meadow',
    'mist',
    'otter',
    'paddle',
    'pebble',
    'pilot',
    'plank',
    'quay',
    'rain',
    'reef',
    'river',
  ],
  ...['rope', 'sail', 'sand', 'seal', 'shell', 'shore', 'slate', 'spray', 'stone', 'storm', 'tern'],
  ...['tide', 'timber', 'wave', 'whale', 'willow', 'wind'],
] as const;

const pick = () => WORDS[randomInt(WORDS.length)];
/** A password that is easy to read out and to type, of some 28 bits: it is changed by whoever gets it. */
export const newPassword = (): string => `${pick()}-${pick()}-${pick()}-${randomInt(100, 1000)}`;
