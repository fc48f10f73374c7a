import { sittingsOf } from './sittings';

/** A step as the log keeps it, without the page it was made on. */
export interface LoggedJson {
  /** The version that it made. */
  version: number;
  author: string;
  /** Epoch milliseconds. */
  at: number;
  body: object;
}

/** In the log, a step that brought in what was copied elsewhere says so here. */
export const PASTED = 'pasted';

/** A sitting as a line shows it. Instants in epoch milliseconds. */
export interface LineSitting {
  author: string;
  from: number;
  to: number;
  /** The first and the last version that was made in it; others may have written between. */
  first: number;
  last: number;
  /** Characters that came and that went. */
  added: number;
  removed: number;
  /** Strokes that were drawn. */
  strokes: number;
  /** What was pasted in it: when, and how many characters. */
  pasted: { version: number; at: number; characters: number }[];
}

/** Never in a page: the database takes no such sign. */
const BLOCK_END = '\0';

/** The text of a slice's JSON, or of a node's, with a sign that no page has where a block begins and ends. */
export function textIn(value: unknown): string {
  if (Array.isArray(value)) return value.map(textIn).join('');
  if (typeof value !== 'object' || value === null) return '';
  if ('text' in value && typeof value.text === 'string') return value.text;
  // A label of a drawing has its words beside it.
  if ('type' in value && value.type === 'label' && 'attrs' in value) return textIn(value.attrs);
  return 'content' in value ? `${BLOCK_END}${textIn(value.content)}${BLOCK_END}` : '';
}
const charactersIn = (value: unknown): number =>
  [...textIn(value)].filter((sign) => sign !== BLOCK_END).length;

function strokesIn(value: unknown): number {
  if (Array.isArray(value)) return value.reduce<number>((sum, one) => sum + strokesIn(one), 0);
  if (typeof value !== 'object' || value === null) return 0;
  if ('type' in value && value.type === 'stroke') return 1;
  return 'content' in value ? strokesIn(value.content) : 0;
}

const placeIn = (body: object, name: string): number => {
  const value: unknown = Reflect.get(body, name);
  return typeof value === 'number' ? value : 0;
};

/**
 * How many characters a step brought and how many places it took away, told from its JSON alone. What is taken away
 * counts the ends of its blocks, one each; what keeps the middle of its range (wrapping, lifting) took only what is
 * around it, and a change of attributes or marks brings and takes nothing.
 */
export function sizeOfStep(body: object): { added: number; removed: number } {
  const added = 'slice' in body ? charactersIn(body.slice) : 0;
  const range = placeIn(body, 'to') - placeIn(body, 'from');
  switch (Reflect.get(body, 'stepType')) {
    case 'replace':
      return { added, removed: range };
    case 'replaceAround':
      return { added, removed: range - (placeIn(body, 'gapTo') - placeIn(body, 'gapFrom')) };
    default:
      return { added: 0, removed: 0 };
  }
}

/** The sittings of a page, told from its steps alone, so that the line is there before any page is. */
export const workLine = (steps: readonly LoggedJson[]): LineSitting[] =>
  sittingsOf(steps).map(({ author, from, to, steps: made }) => {
    const sizes = made.map(({ body }) => sizeOfStep(body));
    return {
      author,
      from,
      to,
      first: made[0]?.version ?? 0,
      last: made.at(-1)?.version ?? 0,
      added: sizes.reduce((sum, size) => sum + size.added, 0),
      removed: sizes.reduce((sum, size) => sum + size.removed, 0),
      strokes: made.reduce(
        (sum, { body }) => sum + ('slice' in body ? strokesIn(body.slice) : 0),
        0,
      ),
      pasted: made.flatMap(({ version, at, body }) =>
        PASTED in body ? [{ version, at, characters: sizeOfStep(body).added }] : [],
      ),
    };
  });
