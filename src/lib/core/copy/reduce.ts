/** What is recorded of a copy, each with its time; rows are only ever added. The last ones say nothing of how it stands. */
export const EVENT_KINDS = [
  'opened',
  'handed in',
  'taken back',
  'said done',
  'took done back',
  'looked',
  'handed back',
  'put back',
  'named',
  'gap accepted',
  'gap opened',
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

export interface CopyEvent {
  kind: EventKind;
  /** Epoch milliseconds. */
  at: number;
  person: string;
}

/** What a copy's events come to. All instants are epoch milliseconds; null means it has not happened. */
export interface Handing {
  /** When the first of its students opened it. */
  opened: number | null;
  /** Which of them have. */
  openers: string[];
  /** The hand-in that stands: one that was taken back counts as never made. */
  handedIn: number | null;
  /**
   * The hand-in that counts for its due time: the one that was handed back first, or until then the one that stands.
   * A revision handed in later is never late.
   */
  counted: number | null;
  /** When it was taken back last. */
  takenBack: number | null;
  handedBack: number | null;
  /** When any of the staff last looked inside. */
  staffLooked: number | null;
  /** When `viewer` last looked inside. */
  looked: number | null;
  /** When one of the staff last accepted it as it is. */
  accepted: number | null;
}

/**
 * The one place where the events of a copy become facts about it.
 * @param events in the order in which they happened
 * @param viewer whose looks count for `looked`
 */
export function reduceEvents(events: readonly CopyEvent[], viewer: string): Handing {
  const facts: Handing = {
    opened: null,
    openers: [],
    handedIn: null,
    counted: null,
    takenBack: null,
    handedBack: null,
    staffLooked: null,
    looked: null,
    accepted: null,
  };
  /** The hand-in of the round before, which stands again when this round's is taken back. */
  let before: number | null = null;
  let settled = false;
  for (const { kind, at, person } of events)
    switch (kind) {
      case 'opened':
        facts.opened ??= at;
        if (!facts.openers.includes(person)) facts.openers.push(person);
        break;
      case 'handed in':
        facts.handedIn = at;
        if (!settled) facts.counted = at;
        break;
      case 'taken back':
        facts.handedIn = before;
        facts.takenBack = at;
        if (!settled) facts.counted = null;
        break;
      case 'handed back':
        before = facts.handedIn;
        facts.handedBack = at;
        settled = facts.counted !== null;
        break;
      case 'looked':
        facts.staffLooked = at;
        if (person === viewer) facts.looked = at;
        break;
      case 'gap accepted':
        facts.accepted = at;
        break;
      case 'gap opened':
        facts.accepted = null;
    }
  return facts;
}

/** How somebody stands who shares a page that each says *done* of. Epoch milliseconds; null means it has not happened. */
export interface OwnHanding extends Pick<Handing, 'handedIn' | 'counted' | 'takenBack'> {
  student: string;
}

const SAYS_FOR_ONE: Partial<Record<EventKind, EventKind>> = {
  'said done': 'handed in',
  'took done back': 'taken back',
  'handed back': 'handed back',
};

/** What each of those who share a page has said for themselves: saying *done* is to one what handing in is to all. */
export const reduceForEach = (
  events: readonly CopyEvent[],
  students: readonly string[],
): OwnHanding[] =>
  students.map((student) => {
    const own = events.flatMap((event) => {
      const kind = SAYS_FOR_ONE[event.kind];
      return kind && (kind === 'handed back' || event.person === student) ? { ...event, kind } : [];
    });
    const { handedIn, counted, takenBack } = reduceEvents(own, '');
    return { student, handedIn, counted, takenBack };
  });
