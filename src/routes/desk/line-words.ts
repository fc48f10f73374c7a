import { away, sayDay, when } from '$core/calendar/say-time';
import type { DeskLine, DeskPlace } from '$core/desk/desk-view';
import { sayMarkingTime } from '$core/desk/marking-pace';
import { CAUSE_SAYS } from '$core/headcount/say-gap';
import { counted } from '$core/lists/counted';
import { listed } from '$core/lists/listed';

/** What the words of a line depend on besides it. */
export interface Telling {
  /** Epoch milliseconds. */
  now: number;
  timeZone: string;
  /** How long the teacher needs to mark a copy, in milliseconds; null where that is not known. */
  pace: number | null;
}

const inTotal = ({ places }: DeskLine) => places.reduce((sum, { count }) => sum + count, 0);

/** How many of something a line is about, where it stands in figures; null where it does not. */
export const figureOf = (line: DeskLine): number | null =>
  line.kind === 'answer' || line.kind === 'questions' ? inTotal(line) : null;

export function titleOf(line: DeskLine): string {
  const n = inTotal(line);
  switch (line.kind) {
    case 'answer':
    case 'due':
      return line.kind === 'due' ? `${line.title} is due` : line.title;
    case 'questions':
      return `${counted(n, 'question')} in the margin`;
    case 'lacking':
      return `${line.title} ${n === 1 ? 'lacks' : 'lack'} ${line.assignments === 1 ? 'a copy' : `copies of ${line.assignments} assignments`}`;
    case 'gap':
      return sayGapLine(line, n);
    case 'nudge':
      return `${n} ${n === 1 ? 'has' : 'have'} not begun ${line.title}`;
    case 'stuck':
      return `${line.stuck.who} does not get on with part ${line.stuck.part.number}`;
    case 'draft':
      return `${line.title} ${line.places[0]?.since === null ? 'is a draft' : 'goes out'}`;
    case 'drafts':
      return `${n} assignments are drafts`;
    case 'office':
      return `The office has another roster of ${line.title}`;
    case 'opens':
      return `${line.title} ${line.places[0]?.since === null ? 'is closed' : 'opens'}`;
  }
}

/** What happened to copies of an assignment, by its cause. */
function sayGapLine({ title, who, cause }: Extract<DeskLine, { kind: 'gap' }>, n: number): string {
  switch (cause) {
    case 'emptied':
    case 'pasted over':
      return who ? `${title} of ${who} was ${cause}` : `${n} copies of ${title} were ${cause}`;
    case 'attached':
      return `${who ?? `${n} students`} attached work to ${title} and did not hand in`;
    case 'cannot be read':
      return `What ${who ?? `${n} students`} attached to ${title} cannot be read`;
    case 'cannot be opened':
      return `A link ${who ? `of ${who}` : `of ${n} students`} on ${title} cannot be opened`;
    default:
      return `${CAUSE_SAYS[cause]}: ${title}`;
  }
}

/** So many people are named in a line. */
const MOST_NAMES = 3;
function sayNames(names: readonly string[]): string {
  const some = [...new Set(names)];
  const more = some.length - MOST_NAMES;
  return listed(more > 0 ? [...some.slice(0, MOST_NAMES), `${more} more`] : some);
}

/** What is said of a line beside its classes; empty for nothing. */
export function moreOf(line: DeskLine, { pace }: Telling): string {
  switch (line.kind) {
    case 'answer':
      return pace === null ? '' : `${sayMarkingTime(inTotal(line), pace)} at your pace`;
    case 'questions':
      return sayNames(line.asked.map(({ by }) => by));
    case 'stuck': {
      const { title, minutes, others } = line.stuck;
      const too = others > 0 ? `; ${counted(others, 'other')} needed long for it, too` : '';
      return `${title}, ${minutes} min on it${too}`;
    }
    case 'office': {
      const { joins, leaves, other } = line.difference;
      return listed([
        ...(joins > 0 ? [`${joins} ${joins === 1 ? 'joins' : 'join'}`] : []),
        ...(leaves > 0 ? [`${leaves} ${leaves === 1 ? 'leaves' : 'leave'}`] : []),
        ...(other > 0 ? [counted(other, 'other difference')] : []),
      ]);
    }
    case 'opens':
      return line.places[0]?.since === null ? 'its students see nothing of what is handed out' : '';
    default:
      return '';
  }
}

/** What stands behind the name of a class. */
export function sayPlace(
  line: DeskLine,
  { count, since }: DeskPlace,
  { now, timeZone }: Telling,
): string {
  const several =
    line.places.length > 1 && line.kind !== 'lacking' && line.kind !== 'due' && count > 0;
  const time = since === null ? '' : when(since, now, timeZone);
  const says: Record<DeskLine['kind'], string> = {
    answer: `waiting since ${time}`,
    questions: `since ${time}`,
    lacking: `since ${time}`,
    gap: `since ${time}`,
    nudge: since === null ? '' : `${since < now ? 'was due' : 'due'} ${time}, ${away(since, now)}`,
    stuck: `wrote ${time}`,
    due: since === null ? '' : `${time}, ${away(since, now)}`,
    draft: time,
    drafts: time,
    opens: time,
    office: '',
  };
  return [several ? String(count) : '', time && says[line.kind]].filter(Boolean).join(', ');
}

/** Where a line leads in one of its classes. */
export function leadsTo(line: DeskLine, { class: { id }, copy }: DeskPlace): string {
  switch (line.kind) {
    case 'answer':
      return `/classes/${id}/assignments/${line.id}/marking`;
    case 'stuck':
      return `/classes/${id}/marking/${copy?.id}`;
    case 'questions': {
      const first = line.asked.find((one) => one.class === id);
      return first?.kind === 'copy'
        ? `/classes/${id}/marking/${first.page}`
        : `/read/${first?.page}`;
    }
    case 'lacking':
      return `/classes/${id}?lens=gaps`;
    case 'gap':
      return `/classes/${id}?lens=gaps&of=${line.assignment}`;
    case 'nudge':
      return `/classes/${id}?order=begun&only=unopened&only=opened`;
    case 'due':
      return `/classes/${id}/assignments/${line.id}`;
    case 'draft':
      return `/classes/${id}/hand-out?draft=${line.id}`;
    case 'drafts':
      return `/classes/${id}/hand-out`;
    case 'opens':
      return `/classes/${id}/plan`;
    case 'office':
      return `/classes/${id}/roster`;
  }
}

/** What the link of a line is called. */
export function linkOf(line: DeskLine): string {
  const words: Record<DeskLine['kind'], string> = {
    answer: 'Mark',
    questions: 'Read',
    lacking: 'See gaps',
    gap: 'Look and mend',
    nudge: 'See who',
    stuck: 'Open',
    due: 'Open',
    draft: line.places[0]?.since === null ? 'Finish' : 'Check',
    drafts: 'See them',
    opens: 'See the plan',
    office: 'See the roster',
  };
  return words[line.kind];
}

/** The day and time until which something is put off. */
export const sayUntil = (at: number, { now, timeZone }: Telling): string =>
  at - now > 6 * 86_400_000 ? sayDay(at, timeZone) : when(at, now, timeZone);
