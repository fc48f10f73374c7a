import type { CopyRow } from '../copy/copy-row';
import { asksForWork, isWithTeacher, stateOf, type CopyFacts } from '../copy/state';
import type { Gap } from '../headcount/gap';

/** What of a piece of work is not settled. */
type OpenWork = 'to mark' | 'kept back' | 'written in again' | 'not handed in';

/** Something that is still open in a class whose term ends. Instants in epoch milliseconds. */
export type OpenMatter =
  | { kind: OpenWork; assignment: string; title: string; copies: string[] }
  | { kind: 'not collected'; assignment: string; title: string; files: number }
  | { kind: 'gap'; assignment: string; title: string; students: number }
  /** `goesOut`: when it goes out by itself; null for a draft. */
  | { kind: 'not handed out'; id: string; title: string; goesOut: number | null }
  | { kind: 'asked to join'; person: string; name: string };

/** What is known of a class whose term ends. */
export interface ClosingClass {
  /** In the order in which they are shown. */
  assignments: readonly { id: string; title: string }[];
  copies: readonly Pick<CopyRow, 'id' | 'assignment' | 'delivery' | 'replaced' | 'facts'>[];
  gaps: readonly Pick<Gap, 'assignment' | 'students'>[];
  /** Files that were brought for an assignment and wait to be collected. */
  files: ReadonlyMap<string, number>;
  drafts: readonly { id: string; title: string; goesOut: number | null }[];
  asked: readonly { person: string; name: string }[];
}

const ORDER: readonly OpenWork[] = ['to mark', 'kept back', 'written in again', 'not handed in'];

/** What is open of one copy; null when it is settled. */
function openWork(facts: CopyFacts): OpenWork | null {
  const { scored, handedBack, counted, allowance } = facts;
  if (scored !== null && (handedBack === null || scored > handedBack)) return 'kept back';
  const state = stateOf(facts);
  if (isWithTeacher(state)) return 'to mark';
  if (state === 'revising') return 'written in again';
  return handedBack === null && counted === null && allowance !== 'excused'
    ? 'not handed in'
    : null;
}

/** Everything that is open in a class, by assignment: what waits for the teacher first. */
export function openMatters(of: ClosingClass): OpenMatter[] {
  const works = of.copies.flatMap((copy) => {
    const kind = asksForWork(copy) ? openWork(copy.facts) : null;
    return kind ? [{ kind, ...copy }] : [];
  });
  const work = ORDER.flatMap((kind) =>
    of.assignments.flatMap(({ id, title }): OpenMatter[] => {
      const copies = works
        .filter((one) => one.kind === kind && one.assignment === id)
        .map((copy) => copy.id);
      return copies.length > 0 ? [{ kind, assignment: id, title, copies }] : [];
    }),
  );
  const gaps = of.assignments.flatMap(({ id, title }): OpenMatter[] => {
    const theirs = of.gaps.filter(({ assignment }) => assignment === id);
    const students = new Set(theirs.flatMap((gap) => gap.students)).size;
    return students > 0 ? [{ kind: 'gap', assignment: id, title, students }] : [];
  });
  const waiting = of.assignments.flatMap(({ id, title }): OpenMatter[] => {
    const files = of.files.get(id) ?? 0;
    return files > 0 ? [{ kind: 'not collected', assignment: id, title, files }] : [];
  });
  return [
    ...work,
    ...waiting,
    ...gaps,
    ...of.drafts.map((draft): OpenMatter => ({ kind: 'not handed out', ...draft })),
    ...of.asked.map((one): OpenMatter => ({ kind: 'asked to join', ...one })),
  ];
}
