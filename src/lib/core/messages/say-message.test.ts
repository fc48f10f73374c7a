import { describe, expect, it } from 'vitest';
import { MessageFact } from './message';
import { sayMessage } from './say-message';

const of = { assignment: '00000000-0000-4000-8000-000000000001', class: '8C', title: 'Tide' };
const [THU, FRI] = [Date.parse('2026-10-22T10:40:00Z'), Date.parse('2026-10-23T10:40:00Z')];

/** One of each kind, with the words for it. */
const WORDS: [MessageFact, string, string][] = [
  [
    { kind: 'handed out', ...of, due: THU },
    'Handed out: Tide',
    'In 8C. It is due Thursday 22 October, 11:40.',
  ],
  [
    { kind: 'due moved', extension: false, ...of, from: THU, to: FRI },
    'New due time: Tide',
    'In 8C. It is due Friday 23 October, 11:40. It was due Thursday 22 October, 11:40.',
  ],
  [
    { kind: 'due moved', extension: false, ...of, from: null, to: null },
    'New due time: Tide',
    'In 8C. It has no due time.',
  ],
  [
    { kind: 'due moved', ...of, extension: true, from: null, to: FRI },
    'More time: Tide',
    'In 8C. It is due Friday 23 October, 11:40.',
  ],
  [{ kind: 'excused', ...of, excused: true, due: FRI }, 'You are excused: Tide', 'In 8C.'],
  [
    { kind: 'excused', ...of, excused: false, due: FRI },
    'Not excused any more: Tide',
    'In 8C. It is due Friday 23 October, 11:40.',
  ],
  [
    { kind: 'handed in', ...of, count: 12 },
    'Handed in: Tide',
    'In 8C, 12 times since you last looked.',
  ],
  [
    { kind: 'handed in for you', title: 'Tide', by: 'Ada Fennick' },
    'Handed in: Tide',
    'Ada Fennick handed in the page that you share. It can be taken back until your teacher looks at it.',
  ],
  [
    { kind: 'comments', title: 'Tide', by: 'Ms Orrey', count: 1 },
    'A comment on Tide',
    'From Ms Orrey.',
  ],
  [
    { kind: 'comments', title: 'Tide', by: 'Ms Orrey', count: 3 },
    '3 comments on Tide',
    'The last is from Ms Orrey.',
  ],
  [
    { kind: 'proposals', title: 'Tide', by: 'Ms Orrey', count: 1 },
    'A proposal in Tide',
    'Ms Orrey proposes a change. Take it or leave it: you decide.',
  ],
  [
    { kind: 'written in', title: 'Tide', by: 'Ms Orrey' },
    'Ms Orrey wrote in Tide',
    'What they wrote is marked in how it was written; it can be put back.',
  ],
  [
    { kind: 'due soon', ...of, due: FRI },
    'Due soon: Tide',
    'In 8C. It is due Friday 23 October, 11:40.',
  ],
  [
    { kind: 'reminder', ...of, due: FRI, overdue: false, by: 'Ms Orrey', words: '' },
    'A reminder: Tide',
    'Ms Orrey asks for it, in 8C. It is due Friday 23 October, 11:40.',
  ],
  [
    {
      kind: 'reminder',
      ...of,
      due: FRI,
      overdue: true,
      by: 'Ms Orrey',
      words: 'One line will do.',
    },
    'A reminder: Tide',
    'Ms Orrey asks for it, in 8C. It was due Friday 23 October, 11:40. “One line will do.”',
  ],
  [
    { kind: 'not handed out', title: 'Tide', fault: 'Its class is gone.' },
    '“Tide” was not handed out',
    'Its class is gone. It is saved as a draft.',
  ],
  [{ kind: 'handed back', title: 'Tide' }, 'Handed back: Tide', 'Your teacher has looked at it.'],
  [
    { kind: 'put back', title: 'Tide', by: 'Ms Orrey', what: 'page' },
    'Put back as it stood before: Tide',
    'Ms Orrey did it. How it was until then is kept: look at the foot of the page.',
  ],
  [
    { kind: 'put back', title: 'Tide', by: 'Ms Orrey', what: 'passage' },
    'A passage was put back: Tide',
    'Ms Orrey did it. How it was until then is kept: look at the foot of the page.',
  ],
  [{ kind: 'class opened', class: '8C' }, '8C is open', 'You can look around in it now.'],
  [
    { kind: 'class archived', class: '8C', until: '2027-01-31' },
    '8C has ended',
    'The class is archived: nothing in it changes any more. Students can read their own work until Sun 31 Jan 2027.',
  ],
  [{ kind: 'class archived', class: '8C', until: null }, '8C has ended', 'The class is archived.'],
  [
    { kind: 'archive made', name: '8C Coasts' },
    'The archive is made: 8C Coasts',
    'You can download it.',
  ],
  [
    { kind: 'archive opened', name: '8C.zip', fault: null },
    'The archive is opened: 8C.zip',
    'It stands here as an archived class.',
  ],
  [
    { kind: 'archive opened', name: '8C.zip', fault: 'A file is missing.' },
    'The archive could not be opened: 8C.zip',
    'A file is missing.',
  ],
  [
    { kind: 'class built', class: '8C', pages: 1, drafts: 0, undated: [] },
    '8C is built',
    '1 page is in the class now.',
  ],
  [
    { kind: 'class built', class: '8C', pages: 4, drafts: 3, undated: ['Storm log', 'Tides'] },
    '8C is built',
    '4 pages are in the class now. 3 assignments are drafts. Without a due time, because there is no such lesson: Storm log and Tides.',
  ],
  [
    { kind: 'class staff', class: '8C', becomes: 'marker', by: 'Ms Orrey' },
    'You are a marker of 8C now',
    'Ms Orrey changed it.',
  ],
  [
    { kind: 'class staff', class: '8C', becomes: null, by: 'Ms Orrey' },
    'You are no longer one of the staff of 8C',
    'Ms Orrey changed it.',
  ],
  [
    { kind: 'course shared', course: 'Coasts', may: 'write', by: 'Ms Orrey' },
    'You can edit the course Coasts now',
    'Ms Orrey changed it.',
  ],
  [
    { kind: 'course shared', course: 'Coasts', may: null, by: 'Ms Orrey' },
    'The course Coasts is no longer shared with you',
    'Ms Orrey changed it.',
  ],
  [
    { kind: 'asked to join', class: '8C', by: 'Ms Orrey' },
    'Will you join 8C?',
    'Ms Orrey would like you to be in it. Say yes or no in My work.',
  ],
  [
    { kind: 'join answered', name: 'Ada Fennick', accepted: false },
    'Ada Fennick does not join your class',
    'You asked for it.',
  ],
  [
    { kind: 'joined', class: '8C', students: 1, open: 2 },
    'A student joined 8C',
    '2 assignments are open. You decide at each assignment who gets what was handed out before.',
  ],
  [
    { kind: 'new password', by: 'Sol Petrakis' },
    'You have a new password',
    'Sol Petrakis gave it to you. You can change it in Account.',
  ],
  [
    {
      kind: 'asked about',
      title: 'Harbour sketch',
      by: 'Ms Orrey',
      cause: 'emptied',
      names: [],
    },
    'A question about Harbour sketch',
    'Ms Orrey sees that your words went at once. Did you mean it? How it was is kept: look at the foot of the page.',
  ],
  ...(
    [
      [
        'worked elsewhere',
        'Ms Orrey sees your work on “a.xyz”, and nothing here. Where should it be?',
      ],
      [
        'cannot be read',
        'Ms Orrey cannot read a.xyz. Please attach it again, as a PDF or a picture if you can.',
      ],
      [
        'cannot be opened',
        'Ms Orrey cannot open a.xyz. Please let whoever has the link open it, or attach a file.',
      ],
      ['removed', 'Ms Orrey asks how it stands.'],
    ] as const
  ).map(([cause, text]): (typeof WORDS)[number] => [
    { kind: 'asked about', title: 'Harbour sketch', by: 'Ms Orrey', cause, names: ['a.xyz'] },
    'A question about Harbour sketch',
    text,
  ]),
  [
    { kind: 'moved here', title: 'Harbour sketch', by: 'Ms Orrey', from: 'Beach profile' },
    'Moved to where it belongs: Harbour sketch',
    'Ms Orrey moved it here from Beach profile, with all that you wrote.',
  ],
  [{ kind: 'sentence', subject: 'S', text: 'T' }, 'S', 'T'],
];

describe('a message', () => {
  it.each(WORDS)('%o', (fact, subject, text) => {
    expect(sayMessage(fact, 'Europe/Dublin')).toEqual({ subject, text });
    expect(MessageFact.parse(JSON.parse(JSON.stringify(fact)))).toEqual(fact);
  });

  it('has its words for every kind', () => {
    const kinds = MessageFact.options.map((option) => option.shape.kind.value);
    expect(new Set(WORDS.map(([{ kind }]) => kind))).toEqual(new Set(kinds));
  });
});
