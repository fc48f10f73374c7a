import { describe, expect, it } from 'vitest';
import type { DeskLine } from './desk-view';
import { byUrgency, groupOf, lineKey, neededBy } from './urgency';

const DAY = 86_400_000;
const NOW = Date.parse('2026-10-14T09:00:00Z');
const A = { id: '8A', name: '8A', title: 'Coasts', leads: true };
const at = (since: number | null) => [{ class: A, count: 1, since, copy: null }];
const line = (id: string, since: number | null, kind: 'answer' | 'due' = 'answer'): DeskLine => ({
  kind,
  id,
  title: id,
  places: at(since),
});
const questions = (since: number): DeskLine => ({
  kind: 'questions',
  id: '',
  title: '',
  asked: [],
  places: at(since),
});
const draft = (id: string, goesOut: number | null, fault: string | null = null): DeskLine => ({
  kind: 'draft',
  id,
  title: id,
  fault,
  places: at(goesOut),
});
const order = (lines: DeskLine[]) => byUrgency(lines).map(lineKey);

describe('what is urgent', () => {
  it('is a question of yesterday before work of this week, and work of last week before it', () => {
    const asked = questions(NOW - DAY);
    expect(order([line('new', NOW - DAY), asked, line('old', NOW - 8 * DAY)])).toEqual([
      'answer old',
      'questions',
      'answer new',
    ]);
  });

  it('is what happens first; what cannot go out is needed a day before, and what waits for nobody is last', () => {
    const lines = [
      draft('resting', null),
      line('due', NOW + 2 * DAY, 'due'),
      draft('fails', NOW + 2.5 * DAY, 'Its page is gone.'),
      draft('goes', NOW + 2.2 * DAY),
    ];
    expect(order(lines)).toEqual(['draft fails', 'due due', 'draft goes', 'draft resting']);
  });

  it('never puts what is coming before what waits, however old that is', () => {
    expect(order([line('due', NOW - 90 * DAY, 'due'), line('new', NOW)])).toEqual([
      'answer new',
      'due due',
    ]);
  });

  it('says by when: a week for work, a day for a question, at once for a gap', () => {
    expect(neededBy(line('a', NOW))).toBe(NOW + 7 * DAY);
    expect(neededBy(questions(NOW))).toBe(NOW + DAY);
    const lacking: DeskLine = {
      kind: 'lacking',
      id: '8A',
      title: 'Viggo Ekholm',
      lacking: [],
      assignments: 2,
      places: at(null),
    };
    expect(neededBy(lacking)).toBe(0);
    expect(groupOf(lacking)).toBe('mend');
  });
});
