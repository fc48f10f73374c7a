import { describe, expect, it } from 'vitest';
import { ChangeFact } from './change-facts';
import type { Oddity, PlanFact } from './plan-facts';
import { sayChangeFact } from './say-change';
import { sayOddity, sayPlanFact } from './say-plan';

const ZONE = 'Europe/Dublin';
const [FRI, SAT] = [Date.parse('2026-10-16T10:40:00Z'), Date.parse('2026-10-17T08:00:00Z')];
const [one, both] = [['8A'], ['8A', '8B']];

const PLAN: [PlanFact, string][] = [
  [{ kind: 'nobody', classes: both }, 'Nobody is in 8A and 8B yet, so no copy will be made.'],
  [
    { kind: 'done or not', students: 4 },
    '4 students will be asked to say when it is done; there is no page.',
  ],
  [
    { kind: 'own copies', page: null, copies: 4, adapted: 0, classes: one },
    '4 copies will be made, each named for its student in 8A.',
  ],
  [
    { kind: 'own copies', page: 'Tide', copies: 1, adapted: 0, classes: one },
    '1 copy of “Tide” will be made, named for its student.',
  ],
  [
    { kind: 'own copies', page: null, copies: 6, adapted: 2, classes: both },
    '6 copies will be made, each named for its student in 8A and 8B: 4 of the page and 2 of adapted pages, which only those 2 will see.',
  ],
  [
    { kind: 'own copies', page: null, copies: 6, adapted: 1, classes: one },
    '6 copies will be made, each named for its student in 8A: 5 of the page and 1 of an adapted page, which only that student will see.',
  ],
  [
    { kind: 'read', page: 'Tide', students: 4 },
    '4 students will read the page of “Tide”; nobody writes on it.',
  ],
  [
    { kind: 'shared by class', page: null, class: '8A', students: 4 },
    '1 page will be shared by 4 students of 8A.',
  ],
  [
    { kind: 'shared by groups', page: null, pages: 2, classes: one, students: 3 },
    '2 pages will be made, one for each group in 8A, for 3 students.',
  ],
  [{ kind: 'alone', page: null, students: 1 }, '1 student will get a page alone.'],
  [
    { kind: 'adapted copies', students: 2 },
    '2 students will get a page adapted for them, which only those 2 will see.',
  ],
  [{ kind: 'goes out', at: FRI }, 'It goes out on Friday 16 October, 11:40.'],
  [{ kind: 'due', times: [{ at: FRI, classes: one }] }, 'It is due Friday 16 October, 11:40.'],
  [{ kind: 'due', times: [{ at: null, classes: one }] }, 'It is without a due time.'],
  [
    {
      kind: 'due',
      times: [
        { at: FRI, classes: ['8A'] },
        { at: null, classes: ['8B', '8C'] },
      ],
    },
    'It is due Friday 16 October, 11:40 in 8A and without a due time in 8B and 8C.',
  ],
  [{ kind: 'guarded', places: 3 }, 'Your text on the page is guarded: answers go in 3 places.'],
  [{ kind: 'not guarded' }, 'Your text is not guarded: students can change all of the page.'],
  [{ kind: 'points', points: '7.5' }, 'It counts for 7½ points.'],
  [{ kind: 'not taken late' }, 'After its due time it is not taken any more.'],
  [
    { kind: 'each says done' },
    'Each of those who share it says when they are done; with the last of them it is handed in.',
  ],
  [
    { kind: 'marks itself', keys: 4, parts: 5, back: false },
    'It marks itself once it is handed in, by the answer keys of 4 of 5 parts; you hand it back.',
  ],
  [
    { kind: 'marks itself', keys: 1, parts: 1, back: true },
    'It marks itself once it is handed in, by the answer keys of 1 of 1 part; students see at once how many are right.',
  ],
];

const ODDITIES: [Oddity, string][] = [
  [
    { kind: 'no such lesson', class: '8A', nth: 3 },
    '8A has no 3rd lesson after that, so it has no due time there.',
  ],
  [{ kind: 'nobody gets it', class: '8A' }, 'Nobody in 8A gets it.'],
  [{ kind: 'closed class', class: '8A' }, '8A is closed; its students see it when it opens.'],
  [
    { kind: 'in several classes', name: 'Finn Gorse', classes: both },
    'Finn Gorse is in 8A and 8B, and gets it once, in 8A.',
  ],
  [
    { kind: 'adapted for others', page: 'Tide', students: 1 },
    '“Tide” is meant for 1 student who does not get this.',
  ],
  [{ kind: 'adapts nothing', page: 'Tide' }, '“Tide” stands for a page that is not handed out.'],
  [
    { kind: 'nowhere to write', page: 'Tide' },
    '“Tide” has no place for an answer, and its text is guarded: nobody could write on it.',
  ],
  [
    { kind: 'no answer keys', page: 'Tide' },
    '“Tide” has no answer keys, so nothing on it marks itself.',
  ],
  [
    { kind: 'empty group', group: 'Eider', class: '8A' },
    'Eider in 8A has nobody who gets it, so no page is made for it.',
  ],
  [
    { kind: 'no groups', class: '8A' },
    'No groups are chosen for 8A, so everybody there gets a page alone.',
  ],
  [
    { kind: 'in no group', name: 'Finn Gorse', class: '8A' },
    'Finn Gorse is in no group of 8A, and gets a page alone.',
  ],
  [{ kind: 'due in the past' }, 'It is due in the past.'],
  [{ kind: 'due before it goes out', class: '8A' }, 'It is due in 8A before it goes out.'],
  [
    { kind: 'due after the term', class: '8A', at: FRI },
    'It is due in 2026, after the term of 8A has ended.',
  ],
  [{ kind: 'due at midnight' }, 'It is due at midnight, when the reminder would wake people.'],
  [
    { kind: 'due on a day without lesson', class: '8A', at: SAT },
    '8A has no lesson on Saturday 17 October, when it is due.',
  ],
  [
    { kind: 'due outside a lesson', class: '8A', at: SAT },
    'It is due at 09:00, when 8A has no lesson.',
  ],
  [
    { kind: 'due in holidays', class: '8A', at: Date.parse('2026-10-28T14:50:00Z') },
    'It is due on Wednesday 28 October, in the holidays of 8A.',
  ],
  [
    {
      kind: 'due time is skipped',
      local: '2027-03-28T01:30',
      at: Date.parse('2027-03-28T01:30:00Z'),
    },
    'The clock goes forward that night and has no 01:30: it is due at 02:30.',
  ],
  [
    { kind: 'due time comes twice', at: Date.parse('2026-10-25T00:30:00Z') },
    'The clock goes back that night and has 01:30 twice: it is due at the first.',
  ],
  [
    { kind: 'goes out at night', at: Date.parse('2026-10-28T02:30:00Z') },
    'It goes out at 02:30, at night.',
  ],
  [{ kind: 'goes out in holidays', class: '8A' }, 'It goes out in the holidays of 8A.'],
];

const CHANGES: [ChangeFact, string][] = [
  [
    { kind: 'made', delivery: 'one each', pages: 6, students: 6, fromShared: 6 },
    '6 new pages will be made, one each, for 6 students; each begins as the shared page stands now.',
  ],
  [
    { kind: 'made', delivery: 'one for all', pages: 1, students: 6, fromShared: 0 },
    '1 new page will be made, shared by the class, for 6 students.',
  ],
  [{ kind: 'brought back', pages: 1 }, '1 earlier page will come back as it was.'],
  [
    { kind: 'kept to read', pages: 1, students: 6 },
    '1 page will be kept for 6 students to read, and written in no longer.',
  ],
  [
    { kind: 'out of sight', pages: 4, begun: 2 },
    '4 pages will go out of sight, 2 of them begun; nothing in them is lost.',
  ],
  [{ kind: 'other members', pages: 1 }, '1 shared page will have other people in it.'],
  [{ kind: 'to another class', copies: 2 }, '2 copies will go along to another class.'],
  [{ kind: 'title', becomes: 'Tides' }, 'It will be called “Tides”.'],
  [{ kind: 'instructions' }, 'The instructions will change.'],
  [
    { kind: 'due', class: '8A', was: null, becomes: FRI },
    'In 8A it will be due Friday 16 October, 11:40, not without a due time.',
  ],
  [
    { kind: 'points', was: null, becomes: '7.5' },
    'It will count for 7½ points, not no points; points that were given stay as they are.',
  ],
  [
    { kind: 'more points', copies: 2, becomes: '7.5' },
    '2 copies have more than 7½ points. They keep what was given.',
  ],
  [{ kind: 'rubric' }, 'It will be scored by another rubric.'],
  [{ kind: 'category', becomes: '' }, 'It will have no category.'],
  [{ kind: 'guarded', becomes: false }, 'Your text will not be guarded any more.'],
  [{ kind: 'late', becomes: 'taken' }, 'It will be taken after its due time.'],
  [
    { kind: 'hand in', becomes: 'each' },
    'Each of those who share it will say when they are done; with the last of them it is handed in.',
  ],
  [{ kind: 'hand in', becomes: 'for all' }, 'One of those who share it will hand it in for all.'],
  [
    { kind: 'marking', becomes: 'by hand' },
    'What is handed in from now on will be marked by a teacher.',
  ],
  [
    { kind: 'marking', becomes: 'by key' },
    'What is handed in from now on will be marked by the answer keys.',
  ],
  [
    { kind: 'marking', becomes: 'by key, handed back' },
    'What is handed in from now on will be marked by the answer keys and handed back at once.',
  ],
  [{ kind: 'reminder' }, 'The reminder will come at another time.'],
  [
    { kind: 'withdrawn', class: '8A' },
    'It will be withdrawn from 8A; nothing in its copies is lost.',
  ],
  [
    { kind: 'corrected', copies: 3, begun: 1 },
    '3 copies will have the corrected text, 1 of them begun; what is written in them stays.',
  ],
  [
    { kind: 'not corrected', copies: 6, names: ['Finn Gorse', 'Gwen Harrowby'] },
    'In 6 copies something that was corrected has been written in, and stays as it is: Finn Gorse, Gwen Harrowby and others.',
  ],
  [{ kind: 'not corrected: handed in', copies: 1 }, '1 copy is handed in and stays as it is.'],
  [{ kind: 'sentence', text: 'As it was said.' }, 'As it was said.'],
];

describe('in words', () => {
  it.each(PLAN)('a plan’s %o', (fact, words) => expect(sayPlanFact(fact, ZONE)).toBe(words));
  it.each(ODDITIES)('the oddity %o', (fact, words) => expect(sayOddity(fact, ZONE)).toBe(words));
  it.each(CHANGES)('a change’s %o', (fact, words) => {
    expect(sayChangeFact(fact, ZONE)).toBe(words);
    expect(ChangeFact.parse(JSON.parse(JSON.stringify(fact)))).toEqual(fact);
  });

  it('has its words for every kind of change', () => {
    const kinds = ChangeFact.options.map((option) => option.shape.kind.value);
    expect(new Set(CHANGES.map(([{ kind }]) => kind))).toEqual(new Set(kinds));
  });
});
