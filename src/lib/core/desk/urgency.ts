import type { DeskLine } from './desk-view';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** The groups of the desk, in the order in which they stand there. */
export const DESK_GROUPS = ['answer', 'mend', 'nudge', 'coming'] as const;
export type DeskGroup = (typeof DESK_GROUPS)[number];

const GROUP_OF: Record<DeskLine['kind'], DeskGroup> = {
  answer: 'answer',
  questions: 'answer',
  lacking: 'mend',
  gap: 'mend',
  nudge: 'nudge',
  stuck: 'nudge',
  due: 'coming',
  draft: 'coming',
  drafts: 'coming',
  opens: 'coming',
  office: 'coming',
};
export const groupOf = ({ kind }: DeskLine): DeskGroup => GROUP_OF[kind];

/** Handed-in work is answered within a week, and a question within a day: common practice, no source. */
const ANSWER_WITHIN = 7 * DAY;
const REPLY_WITHIN = DAY;

/**
 * By when a line needs a hand, in epoch milliseconds; Infinity where nothing waits for it.
 * - What is handed in: a week after the first of it was; a question in the margin: a day after it was asked.
 * - A gap, and somebody who is stuck: since it is there, for nothing can be done without it.
 * - What is not begun, and what is due: when it is due; what goes out or opens: then.
 * - What cannot go out as it is: a day before it should.
 */
export function neededBy(line: DeskLine): number {
  const since = line.places[0]?.since ?? null;
  if (since === null) return line.kind === 'lacking' ? 0 : Infinity;
  switch (line.kind) {
    case 'answer':
      return since + ANSWER_WITHIN;
    case 'questions':
      return since + REPLY_WITHIN;
    case 'draft':
      return line.fault === null ? since : since - DAY;
    default:
      return since;
  }
}

/** The lines of the desk in order: by their groups, then by when they need a hand; the older stay before what is equal. */
export function byUrgency(lines: readonly DeskLine[]): DeskLine[] {
  const place = (line: DeskLine) => DESK_GROUPS.indexOf(groupOf(line));
  const compare = (a: number, b: number) => (a < b ? -1 : Number(a > b));
  return [...lines].sort(
    (a, b) => compare(place(a), place(b)) || compare(neededBy(a), neededBy(b)),
  );
}

/** What a line is called where it is put off. */
export const lineKey = ({ kind, id }: DeskLine): string => `${kind} ${id}`.trim();
