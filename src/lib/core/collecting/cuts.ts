import type { Cut } from './collected';

/** What is said of one sheet of a stack. */
export interface Sheet {
  /** With it somebody's sheets begin. */
  begins: boolean;
  /** Whose begin with it; null where nobody said. */
  student: string | null;
  /** It goes to nobody: a cover sheet, an empty back. */
  out: boolean;
}

const PLAIN: Sheet = { begins: false, student: null, out: false };

/** The sheets of each student, in the order of the stack; one student's are one piece, wherever they lie. */
export function cutsOf(sheets: readonly Sheet[]): Cut[] {
  const cuts: Cut[] = [];
  const ofStudent = new Map<string, Cut>();
  let now: Cut | null = null;
  for (const [index, { begins, student, out }] of sheets.entries()) {
    if (begins || now === null) {
      now = (student !== null && ofStudent.get(student)) || { pages: [], student };
      if (student !== null && !ofStudent.has(student)) ofStudent.set(student, now);
      if (!cuts.includes(now)) cuts.push(now);
    }
    if (!out) now.pages.push(index + 1);
  }
  return cuts.filter(({ pages }) => pages.length > 0);
}

/** So many sheets for each student, in the order of the roster; what is left over is nobody's. */
export const byRoster = (count: number, perStudent: number, students: readonly string[]): Sheet[] =>
  Array.from({ length: count }, (_, index) => {
    const nth = Math.floor(index / perStudent);
    const begins = index % perStudent === 0 && nth <= students.length;
    return begins ? { ...PLAIN, begins, student: students[nth] ?? null } : PLAIN;
  });

/**
 * By the cover sheets that lie in the stack: what follows one is its student's.
 * @param covers for each sheet the student whose cover sheet it is; null for any other
 */
export const byCovers = (covers: readonly (string | null)[]): Sheet[] =>
  covers.map((student, index) =>
    student !== null
      ? { begins: true, student, out: true }
      : index === 0
        ? { ...PLAIN, begins: true }
        : PLAIN,
  );

const BEGINS = 'uncia cover 1';

/** What the code of a cover sheet says: which assignment, and whose. */
export const writeCover = (assignment: string, student: string): string =>
  `${BEGINS} ${assignment} ${student}`;

/** Whose cover sheet of an assignment a code is; null for any other code. */
export function readCover(code: string, assignment: string): string | null {
  const begin = writeCover(assignment, '');
  return code.startsWith(begin) ? code.slice(begin.length) : null;
}
