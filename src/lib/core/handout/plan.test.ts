import { describe, expect, it } from 'vitest';
import { planOneEach, type HandoutWish } from './plan';

const wish: HandoutWish = {
  ...{ className: '8C', guarded: true, points: '7.5', parts: 4, due: 2000, now: 1000 },
  ...{
    dueAtLesson: true,
    dueClock: '14:50',
    students: [
      { id: 'a', name: 'Ada Fennick' },
      { id: 'b', name: 'Ben Jarrold' },
    ],
  },
};

describe('the plan of a hand-out', () => {
  it('says what will happen and for whom', () => {
    const plan = planOneEach(wish);
    expect(plan.students).toEqual(['a', 'b']);
    expect(plan.sentences).toEqual([
      '2 copies will be made, each named for its student in 8C.',
      'Your text on the page is guarded: answers go in 4 places.',
      'It counts for 7½ points.',
    ]);
    expect(plan.oddities).toEqual([]);
  });
  it('names every oddity', () => {
    expect(planOneEach({ ...wish, due: 900 }).oddities).toEqual(['It is due in the past.']);
    expect(planOneEach({ ...wish, dueClock: '00:00' }).oddities[0]).toContain('midnight');
    expect(planOneEach({ ...wish, dueAtLesson: false, dueClock: '09:00' }).oddities[0]).toContain(
      'no lesson',
    );
    expect(planOneEach({ ...wish, parts: 0 }).oddities[0]).toContain('nobody could write');
    expect(planOneEach({ ...wish, students: [] }).sentences[0]).toContain('Nobody');
    expect(planOneEach({ ...wish, students: wish.students.slice(0, 1) }).sentences[0]).toBe(
      '1 copy will be made, named for Ada Fennick.',
    );
  });
});
