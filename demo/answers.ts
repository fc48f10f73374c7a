import type { Chance } from './chance';
import { HEIGHTS, type DemoOriginal } from './originals';

/** What one student writes in one part: words to type, the options to choose, or what is drawn, labelled and moved. */
export type DemoAnswer =
  | { part: string; type: string }
  | { part: string; choose: string[] }
  | {
      part: string;
      /** Lines through points, with labels where they stand. */
      lines: [number, number][][];
      labels: Record<string, string>;
      /** Pieces with the spots they are put on. */
      pieces: Record<string, string>;
    };

/** The way in, as most see it: past the skerry, round the end of the mole, to the steps. */
const WAY: [number, number][] = [
  [640, 20],
  [625, 110],
  [610, 200],
  [585, 262],
  [530, 285],
  [500, 330],
  [452, 345],
];

const WHY = [
  'The water goes up slowly at first and then fast in the middle, so you can’t just draw a straight line between low and high water. Between the third and fourth hour it rises half of everything in two hours. It is like a wave that is flat at the bottom and at the top, and the tide has to turn round there before it goes the other way.',
  'Because the moon pulls it. At the start nothing much happens and then the whole sea comes in at once and then it gets tired near the top. If it was one speed the table would say two twelfths every hour but it says one two three three two one. I think it is the shape of a swing, slow where it turns.',
  'A tide turns. When something turns it has to stop first, so near low water and near high water it hardly moves. In the middle hours it is furthest from both stops and that is where it is fastest. My dad moors his boat at half tide and he says you can see it run past the steps.',
] as const;
const CROSS = [
  'A boat drawing 1.9 m needs more than that because of waves. It can cross after the second hour, because at 08:10 it is 1.7 m and at 09:10 it is 2.6 m. I would wait until 09:30 to be sure.',
  'At nine o’clock there is about two and a half metres so 1.9 goes over with room. Before that it would touch.',
  'Between 08:10 and 09:10 it comes past 1.9, but I would add half a metre for the swell, so 09:10 and not before.',
] as const;
const COUNT = [
  'He counts the seconds from one flash to the next same flash, the whole period. If you guess you might take the wrong light for the right one because at night they all look the same size. Two lights near each other always have different periods so counting tells you which one it is.',
  'The seconds between the groups. A guess feels right but your eyes are tired at night, and a wrong light means rocks. Counting three times and getting the same number is a way of checking yourself.',
  'How many flashes and how long the dark is. It is safer because it says so in the light list and you can compare, and the list does not get frightened.',
] as const;
const IN_WORDS = [
  'Three flashes every ten seconds',
  'three flashes, every 10 seconds.',
  'It flashes 3 times and then it is dark and that takes 10 seconds all together',
  'It flashes three times and then it is dark and that takes ten seconds altogether',
  'Flashes 3 times, ten seconds',
  'Flashes 3 times, ten seconds',
  'Fast light 3 to 10 seconds',
  'fl means flashing, there are three of them. The 10s is the time till it starts again',
] as const;
const COUNT_SHORT = [
  'Because two lights can look the same and only the seconds tell which one it is.',
  'Guessing puts you on the rocks. If you count three times and get the same, it is right.',
  'Your eyes are tired at night, so a guess is wrong more often than a count.',
] as const;
const SHOW = [
  'The breakwater hides the inner berths from the north, so a boat coming in sees only the end light until it turns to port and then it can see the berths. So the sketch must show the breakwater and the light and where the deep water is. It may leave out the houses and the cars and the names of shops because nobody steers by those. It has to have the headland because that is the first thing you see and you check your compass on it. I would leave out the small boats since they move, but I would put in the crane since it is tall and it does not move. Depths should be there only where a boat goes.',
  'It must show what does not move and what you can hit. Rocks, the bar, the breakwater, the slip. It may leave out everything that is only pretty. My sketch leaves out the café but it keeps the church tower because the tower and the end light in line take you over the bar.',
  'I think the light and the quay and the depth. You can leave out the beach because nobody lands there in a big boat, and the gulls.',
] as const;

function numbers(
  chance: Chance,
  right: readonly (readonly [string, string])[],
  faults: number,
): DemoAnswer[] {
  return right.map(([part, value]) => ({
    part,
    type: chance.happens(faults)
      ? (Number(value) + chance.one([-0.1, 0.2, 0.5, -0.3])).toFixed(1)
      : value,
  }));
}

/** What a student writes on a page, part by part. */
export function answersFor(chance: Chance, original: DemoOriginal['key']): DemoAnswer[] {
  switch (original) {
    case 'symbols':
      return [
        { part: 'cross', choose: [chance.happens(75) ? 'cross-1' : 'cross-2'] },
        { part: 'port', choose: chance.happens(70) ? ['port-1', 'port-3'] : ['port-2'] },
        { part: 'bottom', type: chance.one(['S for sand', 'S, sand', 'M for mud', 'S sand']) },
        ...numbers(chance, [['depth', '2.3']], 25),
        {
          part: 'names',
          lines: [],
          labels: {},
          pieces: { light: 'spot1', skerry: 'spot2', slip: 'spot3', awash: 'spot4' },
        },
      ];
    case 'twelfths':
      return [
        ...numbers(
          chance,
          HEIGHTS.map((value, i) => [`h${i + 1}`, value] as const),
          12,
        ),
        { part: 'why', type: chance.one(WHY) },
        { part: 'cross', type: chance.one(CROSS) },
      ];
    case 'tides':
      return [
        { part: 'range', type: chance.one(['3.6', '3.6 m', '360 cm', '5.2']) },
        ...numbers(chance, [['two', '1.7']], 30),
        { part: 'fastest', choose: [chance.happens(70) ? 'fastest-2' : 'fastest-4'] },
        { part: 'large', type: chance.one(['spring tide', 'Spring tide', 'a big tide']) },
        { part: 'higher', choose: chance.happens(60) ? ['higher-1', 'higher-2'] : ['higher-1'] },
      ];
    case 'night':
      return [
        { part: 'words', type: chance.one(IN_WORDS) },
        ...numbers(chance, [['dark', '6']], 20),
        {
          part: 'tells',
          choose: chance.one([
            ['tells-1', 'tells-2', 'tells-4'],
            ['tells-1', 'tells-2'],
            ['tells-1', 'tells-3', 'tells-4'],
            ['tells-2', 'tells-4'],
          ]),
        },
        { part: 'count', type: chance.one(COUNT_SHORT) },
      ];
    case 'light':
      return [
        {
          part: 'words',
          type: chance.one([
            'three flashes every ten seconds',
            'Flashes 3 times, ten seconds',
            '3 flashes every 10 seconds',
          ]),
        },
        ...numbers(chance, [['dark', '6']], 20),
        { part: 'pair', choose: [chance.happens(80) ? 'pair-1' : 'pair-2'] },
        { part: 'count', type: chance.one(COUNT) },
        ...numbers(chance, [['period', '5']], 20),
      ];
    case 'sketch':
      return [
        { part: 'first', choose: [chance.one(['first-1', 'first-1', 'first-2'])] },
        ...numbers(
          chance,
          [
            ['steps', '1.2'],
            ['crane', '2.4'],
            ['slip', '0.6'],
            ['end', '2.3'],
          ],
          15,
        ),
        { part: 'show', type: chance.one(SHOW) },
        {
          part: 'way',
          lines: [
            WAY,
            [
              [470, 330],
              [452, 345],
              [474, 356],
            ],
          ],
          labels: { '575 240': 'end light', '660 120': 'keep off' },
          pieces: {},
        },
      ];
    case 'profile':
    case 'pilot':
    case 'master':
      throw new Error('nobody writes this alone');
  }
}
