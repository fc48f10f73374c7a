/** Why a version is kept. */
type KeptCause =
  | 'begun'
  | 'shown'
  | 'handed out'
  | 'handed in'
  | 'handed back'
  | 'due'
  | 'before putting back'
  | 'replaced'
  | 'named';

/** A version that has a cause or a name. */
export interface KeptVersion {
  version: number;
  /** Epoch milliseconds. */
  at: number;
  cause: KeptCause;
  /** Who did what it is kept for; null where nobody in particular did. */
  by: string | null;
  /** Of a named one; of an original that was handed out, what and to whom. */
  name: string;
}

/** What happened to a page, as far as it keeps versions. */
export interface HistoryEvent {
  kind: string;
  at: number;
  person: string;
  /** The version when it had happened. */
  version: number;
  note: string;
}

/** How long a page is there. Instants in epoch milliseconds. */
interface Life {
  /** The version that its history begins with, how it came to be there, and when. */
  first: number;
  begun: { cause: 'handed out' | 'begun' | 'shown'; at: number };
  /** When the students of a copy were given something else. */
  replaced: number | null;
  /** The newest version. */
  version: number;
  /** The last version before a copy's due time; null before that time, and for what is not due. */
  due: { version: number; at: number } | null;
}

/**
 * The kept versions of a page, oldest first.
 * @param handedOut of an original
 */
export function keptVersions(
  events: readonly HistoryEvent[],
  { first, begun, replaced, version, due }: Life,
  handedOut: readonly Pick<KeptVersion, 'version' | 'at' | 'name'>[] = [],
): KeptVersion[] {
  const kept: KeptVersion[] = [
    { ...begun, version: first, by: null, name: '' },
    ...handedOut.map((one): KeptVersion => ({ ...one, cause: 'handed out', by: null })),
    ...events.flatMap(({ kind, at, person, version, note }): KeptVersion[] => {
      switch (kind) {
        case 'handed in':
        case 'handed back':
          return [{ version, at, cause: kind, by: person, name: '' }];
        case 'put back':
          return [{ version: version - 1, at, cause: 'before putting back', by: person, name: '' }];
        case 'named':
          return [{ version, at, cause: 'named', by: person, name: note }];
        default:
          return [];
      }
    }),
  ];
  if (due) kept.push({ ...due, cause: 'due', by: null, name: '' });
  if (replaced !== null)
    kept.push({ version, at: replaced, cause: 'replaced', by: null, name: '' });
  return kept.sort((a, b) => a.version - b.version || a.at - b.at);
}

/** A kept version in a word or two. */
export function sayKept({ cause, name }: KeptVersion): string {
  switch (cause) {
    case 'named':
      return name;
    case 'due':
      return 'when it was due';
    case 'replaced':
      return 'before another page was given';
    case 'before putting back':
      return 'before it was put back';
    case 'shown':
      return 'shown to the class';
    case 'handed out':
      return name ? `handed out: ${name}` : cause;
    default:
      return cause;
  }
}
