import { describe, expect, it } from 'vitest';
import { holidayFault, slotFault, termFault } from './calendar-faults';
import { weeksOf } from './weeks';

const term = { id: 'a', name: 'Autumn term', starts: '2026-08-31', ends: '2026-12-18' };

describe('the school’s calendar', () => {
  it('has no two terms at once', () => {
    const next = { id: null, name: 'Spring term', starts: '2027-01-04', ends: '2027-03-26' };
    expect(termFault(next, [term])).toBeNull();
    expect(termFault({ ...next, starts: '2026-12-18' }, [term])).toMatch(/overlaps Autumn term/);
    expect(termFault(term, [term])).toBeNull();
    expect(termFault({ ...next, ends: '2027-01-03' }, [])).toMatch(/before it begins/);
    expect(termFault({ ...next, ends: '2028-03-26' }, [])).toMatch(/a year/);
    expect(holidayFault({ ...next, ends: '2027-01-01' })).toMatch(/before it begins/);
  });

  it('has no two lessons of a class at once', () => {
    const slot = { weekday: 1, starts: '09:00', ends: '09:50' };
    expect(slotFault({ ...slot, starts: '09:50', ends: '10:40' }, [slot])).toBeNull();
    expect(slotFault({ ...slot, weekday: 2 }, [slot])).toBeNull();
    expect(slotFault({ ...slot, starts: '09:49', ends: '10:40' }, [slot])).toMatch(
      /09:00 to 09:50/,
    );
    expect(slotFault({ ...slot, ends: '09:00' }, [])).toMatch(/before it begins/);
  });

  /** Counted by hand from a wall calendar of 2026: 31 August is a Monday. */
  it('counts weeks from the first of the term, and the school days in each', () => {
    const weeks = weeksOf(term, [{ starts: '2026-10-26', ends: '2026-10-30' }]);
    expect(weeks).toHaveLength(16);
    expect(weeks[0]).toEqual({ number: 1, monday: '2026-08-31', schoolDays: 5 });
    expect(weeks[8]).toEqual({ number: 9, monday: '2026-10-26', schoolDays: 0 });
    const shorter = weeksOf({ starts: '2026-09-02', ends: '2026-09-08' }, []);
    expect(shorter.map(({ schoolDays }) => schoolDays)).toEqual([3, 2]);
  });
});
