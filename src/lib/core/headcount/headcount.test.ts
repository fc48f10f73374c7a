import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planChange } from '../handout/change';
import { plannedCopies, type Receivers } from '../handout/plan';
import { plainSpec } from '../handout/spec';
import type { Gap } from './gap';
import { headcount, type StandingCount } from './headcount';

const PAGES = ['11111111-1111-4111-8111-111111111111', '22222222-2222-4222-8222-222222222222'];
const KLASS = '33333333-3333-4333-8333-333333333333';

/** What befell a copy: nothing, it was never made, it was removed, which somebody may accept, or its student left. */
const FATES = ['there', 'never made', 'removed', 'accepted', 'left'] as const;
const classes = fc.record({
  size: fc.nat(24),
  delivery: fc.constantFrom('one each', 'one per group', 'one for all', 'to read'),
  without: fc.nat(3),
  both: fc.boolean(),
  fates: fc.array(fc.constantFrom(...FATES), { minLength: 60, maxLength: 60 }),
});

type Made = typeof classes extends fc.Arbitrary<infer T> ? T : never;

function makeClass({ size, delivery, without, both, fates }: Made) {
  const students = Array.from({ length: size }, (_, i) => ({ id: `s${i}`, name: `Student ${i}` }));
  const ids = students.map(({ id }) => id);
  const klass: Receivers = {
    id: KLASS,
    name: '8C',
    students,
    groups: [0, 1, 2].map((n) => ({
      name: `Group ${n}`,
      members: ids.filter((_, i) => i % 4 === n),
    })),
  };
  const spec = plainSpec(PAGES[0] ?? '', KLASS, {
    originals: PAGES.slice(0, both ? 2 : 1).map((page) => ({ page, delivery })),
    without: ids.slice(0, without),
  });
  const { copies } = plannedCopies(spec, [klass], '');
  const fateOf = (i: number) => fates[i % fates.length] ?? 'there';
  const standing = copies.flatMap((copy, i): StandingCount[] => {
    const fate = fateOf(i);
    if (fate === 'never made') return [];
    return [
      {
        ...copy,
        id: `copy ${i}`,
        begun: fate === 'left',
        standing: fate === 'removed' || fate === 'accepted' ? 'withdrawn' : 'current',
        away: fate === 'removed' || fate === 'accepted' ? 5 : null,
        left: fate === 'left' ? 6 : null,
        isOpen: fate === 'left',
        accepted: fate === 'accepted' ? 7 : null,
        words: 12,
      },
    ];
  });
  return { copies, standing, present: new Set(ids), fates: copies.map((_, i) => fateOf(i)) };
}

/** The headcount's own remedy for what is missing: what the plan of a change makes and brings back. */
function mend(made: ReturnType<typeof makeClass>): StandingCount[] {
  const { make, back } = planChange(made.standing, made.copies, made.present);
  const again = new Set(back.map(({ id }) => id));
  return [
    ...made.standing.map((copy): StandingCount =>
      again.has(copy.id) ? { ...copy, standing: 'current', away: null } : copy,
    ),
    ...make.map((copy, i): StandingCount => ({
      ...copy,
      id: `new ${i}`,
      begun: false,
      standing: 'current',
      away: null,
      left: null,
      isOpen: false,
      accepted: null,
      words: 0,
    })),
  ];
}

const whose = (gap: Gap) => `${gap.for} ${gap.students.join(' ')}`;

const count = (
  wanted: Parameters<typeof headcount>[0]['wanted'],
  standing: readonly StandingCount[],
  present: ReadonlySet<string>,
  excused: ReadonlySet<string> = new Set(),
) => headcount({ assignment: 'a', wanted, standing, present, excused, joined: () => 1 });

describe('the headcount of a random class', () => {
  it('finds every gap, with its cause, and no other', () => {
    fc.assert(
      fc.property(classes, (one) => {
        const made = makeClass(one);
        const { gaps, expected, there } = count(made.copies, made.standing, made.present);
        for (const cause of ['never made', 'removed', 'left'] as const) {
          const wanted = made.copies.filter((_, i) => made.fates[i] === cause);
          expect(
            gaps
              .filter((gap) => gap.cause === cause)
              .map(whose)
              .sort(),
          ).toEqual(wanted.map((copy) => `${copy.for} ${copy.members.join(' ')}`).sort());
        }
        expect(expected).toBe(made.copies.length);
        expect(there).toBe(made.fates.filter((fate) => fate === 'there' || fate === 'left').length);
      }),
    );
  });

  it('has none that is missing once it is mended, and has it again once that is undone', () => {
    fc.assert(
      fc.property(classes, (one) => {
        const made = makeClass(one);
        const before = count(made.copies, made.standing, made.present).gaps;
        const mended = mend(made);
        const left = count(made.copies, mended, made.present).gaps;
        expect(left.map(({ cause }) => cause)).toEqual(
          before.filter(({ cause }) => cause === 'left').map(({ cause }) => cause),
        );
        // Undone: what was made, or came back, is out of its students' sight; nothing is gone.
        const had = new Set(
          made.standing.filter(({ standing }) => standing === 'current').map(({ id }) => id),
        );
        const undone = mended.map((copy): StandingCount =>
          had.has(copy.id) ? copy : { ...copy, standing: 'withdrawn' },
        );
        const again = count(made.copies, undone, made.present).gaps;
        expect(again.map(whose).sort()).toEqual(before.map(whose).sort());
        expect(undone.length).toBeGreaterThanOrEqual(made.standing.length);
      }),
    );
  });

  it('counts who lacks a place in a page that others share', () => {
    const made = makeClass({
      size: 5,
      delivery: 'one for all',
      without: 0,
      both: false,
      fates: Array.from({ length: 60 }, () => 'there'),
    });
    const standing = made.standing.map((copy) => ({ ...copy, members: copy.members.slice(1) }));
    const { gaps } = count(made.copies, standing, made.present);
    expect(gaps.map(({ cause, students }) => [cause, students])).toEqual([['never made', ['s0']]]);
    expect(count(made.copies, standing, made.present, new Set(['s0'])).gaps).toEqual([]);
  });

  it('asks for nothing of who left, nor of an empty class', () => {
    const made = makeClass({
      size: 3,
      delivery: 'one each',
      without: 0,
      both: false,
      fates: ['removed'],
    });
    const { gaps } = count([], made.standing, new Set());
    expect(gaps).toEqual([]);
    expect(count([], [], new Set())).toEqual({ expected: 0, there: 0, gaps: [] });
  });
});
