import type { Node } from 'prosemirror-model';
import { h, list, p, page, table } from './write-page';

/** Pages that students only read. */
export const READINGS: readonly { title: string; unit: string; page: Node }[] = [
  {
    title: 'What the tide does in a day',
    unit: 'The tide',
    page: page(
      p('Twice a day the water at Skerry Point climbs the quay steps, and twice it leaves them.'),
      h(1, 'Low water to high water'),
      p(
        'From low water to high water takes a little over six hours. The water does not rise evenly: it hurries in the middle.',
      ),
      table([
        ['hour', '1', '2', '3', '4', '5', '6'],
        ['rise, twelfths', '1', '2', '3', '3', '2', '1'],
      ]),
      h(1, 'Springs and neaps'),
      p(
        'When sun and moon pull along one line the range is large: springs. When they pull across each other it is small: neaps.',
      ),
    ),
  },
  {
    title: 'How a light is described',
    unit: 'Lights',
    page: page(
      p(
        'A light tells a boat where it is by its character: the colour, the rhythm and the period.',
      ),
      list(
        'fixed: it never goes out',
        'flashing: dark for longer than it is light',
        'occulting: light for longer than it is dark',
        'isophase: light and dark take equally long',
      ),
      p('The period is the time from the beginning of one pattern to the beginning of the next.'),
    ),
  },
  {
    title: 'Words of the shore',
    unit: 'Shore',
    page: page(
      p('Berm: the flat bank that waves build up above the usual high water.'),
      p('Swash: the water that runs up the beach. Backwash: the water that runs down again.'),
      p(
        'Longshore drift: sand on its way along the coast, a little with every wave that comes in at a slant.',
      ),
    ),
  },
];
