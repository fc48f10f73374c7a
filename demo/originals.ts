import type { Node } from 'prosemirror-model';
import type { AnswerKey } from '../src/lib/core/marking/answer-key';
import { choice, drawing, h, list, number, p, page, short, table, writing } from './write-page';

export interface DemoOriginal {
  key:
    | 'symbols'
    | 'twelfths'
    | 'tides'
    | 'night'
    | 'light'
    | 'sketch'
    | 'profile'
    | 'pilot'
    | 'master';
  title: string;
  page: Node;
  keys: Record<string, AnswerKey>;
}

/** Low water 0.8 m, high water 4.4 m: a twelfth of the range of 3.6 m is 0.3 m, and 1-2-3-3-2-1 of them an hour. */
export const HEIGHTS = ['1.1', '1.7', '2.6', '3.5', '4.1', '4.4'] as const;

/** The picture in `pictures/`, by the SHA-256 of its bytes. */
const HARBOUR = {
  file: 'ca584839ba503451a5c112ca6365b33cb8b8898b795cdc3be0f930375a57522f',
  alt: 'Chart of Skerry Point harbour, with depths in metres',
  height: 600,
};

export const ORIGINALS: readonly DemoOriginal[] = [
  {
    key: 'symbols',
    title: 'Chart symbols',
    page: page(
      p(
        'Spread the chart of Skerry Point out in front of you. Each question has its answer on that chart.',
      ),
      p('What does a small cross with four dots mean?'),
      choice('cross', ['a rock awash', 'a wreck', 'a church', 'an anchorage']),
      p('Which of these are marks that a boat leaves to port when it comes in?'),
      choice(
        'port',
        [
          'the red can off the bar',
          'the green cone',
          'the red post on the breakwater',
          'the yellow buoy',
        ],
        true,
      ),
      p(
        'The bottom off the north beach is marked with one letter. Which, and what does it stand for?',
      ),
      short('bottom'),
      p('How deep is the water at the end light, at chart datum?'),
      number('depth', 'm'),
      p('Put each name where it belongs.'),
      drawing(
        'names',
        HARBOUR,
        { spot1: '550 260', spot2: '770 180', spot3: '345 375', spot4: '265 232' },
        {
          light: 'end light',
          skerry: 'the skerry',
          slip: 'slip',
          awash: 'rock awash',
          church: 'church',
        },
      ),
    ),
    keys: {
      cross: { kind: 'choice', right: ['cross-1'] },
      port: { kind: 'choice', right: ['port-1', 'port-3'] },
      bottom: { kind: 'short', accepted: ['S, sand', 'S for sand', 'S sand', 's = sand'] },
      depth: { kind: 'number', value: '2.3', tolerance: '0', unit: 'm' },
      names: {
        kind: 'pieces',
        places: { light: 'spot1', skerry: 'spot2', slip: 'spot3', awash: 'spot4' },
      },
    },
  },
  {
    key: 'twelfths',
    title: 'Rule of twelfths',
    page: page(
      p(
        'Low water at Skerry Point is 0.8 m at 06:10 and high water 4.4 m at 12:10. Fill in the height for each hour, then say when a boat drawing 1.9 m can cross the bar.',
      ),
      table([
        ['hour', '1', '2', '3', '4', '5', '6'],
        ['rise, twelfths', '1', '2', '3', '3', '2', '1'],
        ['height, m', ...HEIGHTS.map((_, i) => number(`h${i + 1}`, 'm'))],
      ]),
      h(1, 'How the water rises'),
      p('Say in your own words why the tide does not rise at one speed.'),
      writing('why', 60),
      p('When can the boat cross, and what makes you sure?'),
      writing('cross', 30),
    ),
    keys: Object.fromEntries(
      HEIGHTS.map((value, i) => [
        `h${i + 1}`,
        { kind: 'number', value, tolerance: '0.05', unit: 'm' },
      ]),
    ),
  },
  {
    key: 'tides',
    title: 'Tides test',
    page: page(
      p('Answer on your own. It is marked as soon as you hand it in.'),
      p('Low water is 0.8 m and high water 4.4 m. How large is the range?'),
      number('range', 'm'),
      p('How high is the water two hours after low water?'),
      number('two', 'm'),
      p('In which hour does it rise fastest?'),
      choice('fastest', ['the first', 'the third', 'the fifth', 'the last']),
      p('What is a tide with an unusually large range called?'),
      short('large'),
      p('Which of these can make the water stand higher than the table says?'),
      choice('higher', ['wind towards the land', 'low air pressure', 'a full harbour'], true),
    ),
    keys: {
      range: { kind: 'number', value: '3.6', tolerance: '0', unit: 'm' },
      two: { kind: 'number', value: '1.7', tolerance: '0.05', unit: 'm' },
      fastest: { kind: 'choice', right: ['fastest-2'] },
      large: { kind: 'short', accepted: ['spring tide', 'a spring tide', 'springs'] },
      higher: { kind: 'choice', right: ['higher-1', 'higher-2'] },
    },
  },
  {
    key: 'night',
    title: 'Lights at night',
    page: page(
      p('What can be checked is checked as you hand it in. The rest your teacher reads.'),
      p('Write “Fl(3) 10s” out in words.'),
      short('words'),
      p('The three flashes take 4 seconds together. How long is the dark after them?'),
      number('dark', 's'),
      p('What tells one light from another at night?'),
      choice('tells', ['its colour', 'its period', 'how bright it is', 'its flashes'], true),
      p('Why does a keeper count, and never guess?'),
      writing('count', 20),
    ),
    keys: {
      words: {
        kind: 'short',
        accepted: ['three flashes every ten seconds', 'group of three flashes, period ten seconds'],
        othersByHand: true,
        points: '2',
      },
      dark: { kind: 'number', value: '6', tolerance: '', unit: 's' },
      tells: {
        kind: 'choice',
        right: ['tells-1', 'tells-2', 'tells-4'],
        points: '3',
        partial: true,
      },
      count: { kind: 'by hand', points: '2' },
    },
  },
  {
    key: 'light',
    title: 'A light’s character',
    page: page(
      p(
        'Each light at sea has its own rhythm, so that nobody takes one for another. Look at the light list on the wall.',
      ),
      h(1, 'Reading a character'),
      p('Write “Fl(3) 10s” out in words.'),
      short('words'),
      p('How long is the dark between two groups, if the three flashes take 4 seconds together?'),
      number('dark', 's'),
      h(1, 'Two lights'),
      p('Two lights stand in line when a boat is in the channel. What are they called?'),
      choice('pair', ['a leading line', 'a cross bearing', 'a light float']),
      p('A fisherman says: “I count, I never guess.” What does he count, and why is that safer?'),
      writing('count', 50),
      p('How many seconds is the period of the end light?'),
      number('period', 's'),
    ),
    keys: {
      words: {
        kind: 'short',
        accepted: [
          'three flashes every ten seconds',
          'group flashing three every ten seconds',
          '3 flashes every 10 seconds',
        ],
      },
      dark: { kind: 'number', value: '6', tolerance: '0', unit: 's' },
      pair: { kind: 'choice', right: ['pair-1'] },
      period: { kind: 'number', value: '5', tolerance: '0.5', unit: 's' },
    },
  },
  {
    key: 'sketch',
    title: 'Harbour sketch',
    page: page(
      p(
        'Stand, in your mind, on a boat coming in from the north. Find your way into Skerry Point harbour; then answer here.',
      ),
      p('What do you see first: the headland, the end light or the berths?'),
      choice('first', ['the headland', 'the end light', 'the inner berths']),
      p('Give the depths along the quay, from the chart.'),
      table([
        ['place', 'steps', 'crane', 'slip', 'end'],
        [
          'depth, m',
          number('steps', 'm'),
          number('crane', 'm'),
          number('slip', 'm'),
          number('end', 'm'),
        ],
      ]),
      p('Draw the way in, from the north to the steps, and label what you steer by.'),
      drawing('way', HARBOUR),
      p('What must your sketch show, and what may it leave out?'),
      writing('show', 120),
    ),
    keys: {
      first: { kind: 'choice', right: ['first-1'] },
      steps: { kind: 'number', value: '1.2', tolerance: '0.1', unit: 'm' },
      crane: { kind: 'number', value: '2.4', tolerance: '0.1', unit: 'm' },
      slip: { kind: 'number', value: '0.6', tolerance: '0.1', unit: 'm' },
      end: { kind: 'number', value: '2.3', tolerance: '0.1', unit: 'm' },
    },
  },
  {
    key: 'profile',
    title: 'Beach profile: which way does sand move?',
    page: page(
      p('Look at the three profiles taken on the north beach in March, June and September.'),
      p('Between March and June, did the beach gain or lose sand?'),
      choice('gain', ['gain', 'lose', 'stayed the same']),
      p('By how much did the berm move?'),
      number('berm', 'm'),
      p('Think of these when you answer:'),
      list('where the waves break in summer', 'what a winter storm takes away'),
      p('Which profile do you expect in December, and why?'),
      writing('december', 80),
    ),
    keys: {
      gain: { kind: 'choice', right: ['gain-1'] },
      berm: { kind: 'number', value: '4.5', tolerance: '0.5', unit: 'm' },
    },
  },
  {
    key: 'pilot',
    title: 'Pilot book page',
    page: page(
      p('Each crew writes one page of our own pilot book. Agree first who writes what.'),
      p('Coming in from the north: what does a skipper see, and where does she turn?'),
      writing('north', 20),
      p('Where is there shelter, and from which winds?'),
      writing('shelter', 15),
      p('What is dangerous here, and how does one keep clear of it?'),
      writing('danger', 15),
    ),
    keys: {},
  },
  {
    key: 'master',
    title: 'Ask the harbour master',
    page: page(
      p('The harbour master visits us. Write one question each, so that nobody asks the same.'),
      writing('questions', 40),
    ),
    keys: {},
  },
];

/** *Harbour sketch* for two who need less to write and one step more in between. */
export const SKETCH_ADAPTED = page(
  p(
    'Stand, in your mind, on a boat coming in from the north. You may talk it over with a partner.',
  ),
  p('What do you see first: the headland, the end light or the berths?'),
  choice('first', ['the headland', 'the end light', 'the inner berths']),
  p('Give the depths along the quay. The chart has them in small slanting figures.'),
  table([
    ['place', 'steps', 'crane'],
    ['depth, m', number('steps', 'm'), number('crane', 'm')],
  ]),
  table([
    ['place', 'slip', 'end'],
    ['depth, m', number('slip', 'm'), number('end', 'm')],
  ]),
  p('Name three things that your sketch must show.'),
  writing('show', 40),
);
