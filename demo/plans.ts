import type { Chance } from './chance';
import { ORIGINALS, type DemoOriginal } from './originals';

/** How a copy stands when the demo begins. */
export type Fate =
  | { is: 'unopened' | 'opened' | 'handed in' | 'late' | 'emptied' }
  | { is: 'working' | 'pasted over'; parts: number }
  | { is: 'handed back' | 'revising' | 'marked'; points: string };

/** So many fates each piece of work has, one for each place. */
export const FATES = 23;

/** Work that the classes of Coast & Chart were given. */
export interface Assigned {
  original: DemoOriginal;
  /** Indexes into 8C's lessons: handed out at the start of one, due at the end of the other; elsewhere after as many lessons. */
  out: number;
  due: number;
  /** Its place among the units. */
  unit: number;
  points: string;
  category: 'Tasks' | 'Tests';
  instructions: string;
  /** Students of 8C, by their place, who get the adapted page. */
  adapted: readonly number[];
  /** Of students of 8C. `lessons`: how many later than the others. */
  allowances: readonly {
    student: number;
    kind: 'extension' | 'excused';
    note: string;
    lessons: number;
  }[];
  /** @param student below `FATES` */
  fate: (student: number) => Fate;
}

const scores = (chance: Chance, most: number) =>
  String(most - chance.whole(0, Math.floor(most * 0.9)) / 2);

function of(key: DemoOriginal['key']): DemoOriginal {
  const original = ORIGINALS.find((one) => one.key === key);
  if (!original) throw new Error(`no original ${key}`);
  return original;
}

/** What was handed out a year ago, when all of it has come back. */
export function lastYearsPlans(chance: Chance): Assigned[] {
  const set = (
    key: DemoOriginal['key'],
    [out, due]: [number, number],
    spec: Pick<Assigned, 'unit' | 'points' | 'category' | 'instructions'>,
  ): Assigned => ({
    ...spec,
    original: of(key),
    out,
    due,
    adapted: [],
    allowances: [],
    fate: (n) =>
      n === (out * 5) % 19
        ? { is: 'unopened' }
        : { is: 'handed back', points: scores(chance, Number(spec.points)) },
  });
  return [
    set('symbols', [0, 2], {
      unit: 0,
      points: '12',
      category: 'Tasks',
      instructions: 'Work from the paper chart, not from memory.',
    }),
    set('twelfths', [4, 6], {
      unit: 0,
      points: '10',
      category: 'Tasks',
      instructions: 'Show the unit in your sentences, too.',
    }),
    set('light', [9, 12], {
      unit: 1,
      points: '20',
      category: 'Tests',
      instructions: 'The light list hangs beside the window.',
    }),
    set('sketch', [13, 17], {
      unit: 1,
      points: '20',
      category: 'Tasks',
      instructions: 'Use your own pencil sketch from the quay.',
    }),
  ];
}

/** @param today the index of the first lesson of 8C that has not ended */
export function plans(chance: Chance, today: number): Assigned[] {
  return [
    {
      original: of('symbols'),
      out: 0,
      due: 2,
      unit: 0,
      points: '12',
      category: 'Tasks',
      instructions: 'Work from the paper chart, not from memory.',
      adapted: [],
      allowances: [],
      fate: () => ({ is: 'handed back', points: scores(chance, 12) }),
    },
    {
      original: of('twelfths'),
      out: 3,
      due: 5,
      unit: 0,
      points: '10',
      category: 'Tasks',
      instructions: 'Show the unit in your sentences, too.',
      adapted: [],
      allowances: [],
      fate: (n) => {
        if (n === 3) return { is: 'unopened' };
        if (n === 6) return { is: 'revising', points: '4.5' };
        if (n === 9 || n === 14) return { is: 'late' };
        return n % 5 === 1
          ? { is: 'marked', points: scores(chance, 10) }
          : { is: 'handed back', points: scores(chance, 10) };
      },
    },
    {
      original: of('light'),
      out: 7,
      due: today - 1,
      unit: 1,
      points: '20',
      category: 'Tests',
      instructions: 'The light list hangs beside the window.',
      adapted: [],
      allowances: [{ student: 6, kind: 'extension', note: 'was ill for a week', lessons: 3 }],
      fate: (n) => {
        if ([5, 8, 11, 13, 16, 19, 21].includes(n)) return { is: 'handed in' };
        if (n === 6) return { is: 'working', parts: 2 };
        if (n === 4) return { is: 'opened' };
        return n === 17 ? { is: 'late' } : { is: 'handed back', points: scores(chance, 20) };
      },
    },
    {
      original: of('sketch'),
      out: today - 1,
      due: today + 1,
      unit: 1,
      points: '20',
      category: 'Tasks',
      instructions:
        'Use your own pencil sketch from the quay. If you were away, take Teo’s numbers and say so.',
      adapted: [3, 18],
      allowances: [{ student: 20, kind: 'excused', note: 'at the swimming meet', lessons: 0 }],
      fate: (n) => {
        if ([2, 4, 14, 20].includes(n)) return { is: 'unopened' };
        if ([3, 7].includes(n)) return { is: 'opened' };
        if ([1, 5, 9].includes(n)) return { is: 'handed in' };
        if (n === 11) return { is: 'emptied' };
        if (n === 13) return { is: 'pasted over', parts: 4 };
        return { is: 'working', parts: 1 + (n % 5) };
      },
    },
  ];
}
