import { Fragment, type NodeSpec, type Schema } from 'prosemirror-model';

/** A drawing is this many units wide, whatever its size on a screen; its places are whole units from the upper left. */
export const DRAWING_WIDTH = 1000;
/** How high a drawing may be, in the same units. */
const HEIGHTS = [100, 3000] as const;

/** What is drawn with, as the paint box of a page has it. */
export const INKS = ['dark', 'blue', 'red', 'green'] as const;
export type Ink = (typeof INKS)[number];
/** How wide a pen is, in units. */
export const PEN_WIDTHS = [4, 9, 18] as const;

/** Points of a stroke: "x,y,pressure" with whole numbers, pressure in hundredths, separated by spaces. */
const POINTS = /^-?\d{1,5},-?\d{1,5},\d{1,3}( -?\d{1,5},-?\d{1,5},\d{1,3})*$/;
/** Longer than anybody draws without lifting the pen. */
const MOST_POINTS = 60_000;
const PLACE = /^-?\d{1,5} -?\d{1,5}$/;
const FILE = /^[0-9a-f]{64}$/;
const isHeight = (value: unknown) =>
  Number.isInteger(value) && Number(value) >= HEIGHTS[0] && Number(value) <= HEIGHTS[1];
const ID = /^[\w-]{1,40}$/;

const must = (fits: boolean, what: string) => {
  if (!fits) throw new RangeError(what);
};
const attr = (fits: (value: string) => boolean, what: string, fallback?: string) => ({
  ...(fallback !== undefined && { default: fallback }),
  validate: (value: unknown) => void must(typeof value === 'string' && fits(value), what),
});
const id = attr((value) => ID.test(value), 'a piece of a drawing has no usable id');
const text = (most: number) =>
  attr((value) => value.length <= most, 'a text of a drawing is too long', '');
const at = attr((value) => PLACE.test(value), 'something of a drawing stands nowhere');
/** Of what stood in the original: students do not change it while the page is guarded. */
const given = {
  default: false,
  validate: (value: unknown) => void must(typeof value === 'boolean', 'given or not'),
};

/**
 * A place to draw in, and what is on it: first the places for pieces and the pieces, then strokes and labels as they were
 * made, each a node of its own, so that each is a step and has its author.
 */
export const drawingNodes = {
  answer_drawing: {
    group: 'block answer',
    content: 'spot* piece* (stroke | label)*',
    isolating: true,
    atom: true,
    attrs: {
      id: attr((value) => value === '' || ID.test(value), 'a part has no usable id', ''),
      /** The picture that is drawn on, by the SHA-256 of its bytes; empty for blank paper. */
      file: attr((value) => value === '' || FILE.test(value), 'unknown picture', ''),
      /** What the picture shows. */
      alt: text(1000),
      height: {
        default: 600,
        validate: (value: unknown) =>
          void must(isHeight(value), 'a drawing is too high or too low'),
      },
    },
    parseDOM: [
      {
        tag: 'div[data-answer="drawing"]',
        getAttrs: (dom) => ({
          id: ID.test(dom.getAttribute('data-id') ?? '') ? dom.getAttribute('data-id') : '',
          file: FILE.test(dom.getAttribute('data-file') ?? '') ? dom.getAttribute('data-file') : '',
          alt: dom.getAttribute('data-alt') ?? '',
          height: isHeight(Number(dom.getAttribute('data-height')))
            ? Number(dom.getAttribute('data-height'))
            : 600,
        }),
        getContent: (dom, schema) => readContent(dom, schema),
      },
    ],
    // What it looks like is drawn by whoever shows it: `ui/drawing` in a page, `archive/page-html` in a file.
    toDOM: (node) => [
      'div',
      {
        'data-answer': 'drawing',
        class: 'answer answer-drawing',
        'data-id': node.attrs.id,
        'data-file': node.attrs.file,
        'data-alt': node.attrs.alt,
        'data-height': node.attrs.height,
        'data-content': JSON.stringify(node.content.toJSON() ?? []),
      },
    ],
  },
  /** Where a piece may belong. */
  spot: { attrs: { id, at } },
  /** Something with a name that is moved to where it belongs. */
  piece: {
    attrs: {
      id,
      text: text(100),
      /** Empty beside the drawing, "x y" on it, "@id" on a spot. */
      place: attr(
        (value) => value === '' || PLACE.test(value) || /^@[\w-]{1,40}$/.test(value),
        'a piece stands nowhere',
        '',
      ),
    },
    leafText: (node) => String(node.attrs.text),
  },
  stroke: {
    attrs: {
      id,
      ink: attr((value) => INKS.some((one) => one === value), 'an unknown ink', 'dark'),
      width: {
        default: PEN_WIDTHS[0],
        validate: (value: unknown) =>
          void must(Number.isInteger(value) && Number(value) > 0 && Number(value) <= 60, 'a pen'),
      },
      points: attr(
        (value) => value.length <= MOST_POINTS && POINTS.test(value),
        'a stroke has points that are none',
      ),
      given,
    },
  },
  label: {
    attrs: { id, at, text: text(200), given },
    leafText: (node) => String(node.attrs.text),
  },
} satisfies Record<string, NodeSpec>;

function readContent(dom: globalThis.Node, schema: Schema): Fragment {
  try {
    const { content: json } = 'dataset' in dom ? Object(dom.dataset) : {};
    const content = Fragment.fromJSON(schema, JSON.parse(String(json ?? '[]')));
    content.forEach((node) => node.check());
    return content;
  } catch {
    return Fragment.empty;
  }
}
