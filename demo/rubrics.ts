import type { RubricTable } from '../src/lib/core/marking/rubric';
import type { DemoOriginal } from './originals';

/** The rubrics of Coast & Chart, by the original whose copies they score. */
export const RUBRICS: Partial<
  Record<DemoOriginal['key'], { title: string; table: RubricTable; words: readonly string[] }>
> = {
  sketch: {
    title: 'Harbour sketch, scored',
    words: [],
    table: {
      levels: [5, 3, 2, 0],
      criteria: [
        {
          id: 'truth',
          title: 'True to the harbour',
          descriptors: [
            'Everything a skipper needs is where it is.',
            'One thing is out of place.',
            'Several things are out of place.',
            'It could be any harbour.',
          ],
        },
        {
          id: 'symbols',
          title: 'Chart symbols',
          descriptors: [
            'All as on the chart of Skerry Point.',
            'Nearly all as on the chart.',
            'Some are made up.',
            'None are used.',
          ],
        },
        {
          id: 'depths',
          title: 'Depths',
          descriptors: [
            'Four or more, with their unit.',
            'Three, or the unit is missing.',
            'One or two.',
            'None.',
          ],
        },
        {
          id: 'words',
          title: 'What it leaves out, and why',
          descriptors: [
            'Gives a reason for each thing left out.',
            'Gives some reasons.',
            'Says what is left out, not why.',
            'Says nothing.',
          ],
        },
      ],
    },
  },
  light: {
    title: 'Working with lights',
    words: [
      'Read it off the light list, as you did here.',
      'Count the dark, too: the period ends when the light comes again.',
      'Say which light you would steer for.',
    ],
    table: {
      levels: [0, 1, 2, 3, 4],
      criteria: [
        {
          id: 'character',
          title: 'Character',
          descriptors: [
            'Not named.',
            'Guessed.',
            'Flash and eclipse are told apart.',
            'Right but for one sign.',
            'Right, and as the light list writes it.',
          ],
        },
        {
          id: 'timing',
          title: 'Timing',
          descriptors: [
            'Not measured.',
            'Far off.',
            'The flashes are timed, not the dark.',
            'Within a second.',
            'Measured more than once.',
          ],
        },
        {
          id: 'reason',
          title: 'Reasons',
          descriptors: [
            'None.',
            'One, without the light.',
            'One that fits.',
            'Two that fit.',
            'A skipper would agree.',
          ],
        },
        {
          id: 'wording',
          title: 'Wording',
          descriptors: [
            'Cannot be followed.',
            'Hard to follow.',
            'Clear in places.',
            'Clear.',
            'Clear, and short.',
          ],
        },
        {
          id: 'order',
          title: 'Order',
          descriptors: [
            'None.',
            'Parts are missing.',
            'All parts, in no order.',
            'In order.',
            'In order, with headings.',
          ],
        },
      ],
    },
  },
};
