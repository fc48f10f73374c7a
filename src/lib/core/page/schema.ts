import {
  Schema,
  type Attrs,
  type DOMOutputSpec,
  type Node,
  type NodeSpec,
} from 'prosemirror-model';
import { bulletList, listItem, orderedList } from 'prosemirror-schema-list';
import { tableNodes } from 'prosemirror-tables';
import { drawingNodes } from './drawing-nodes';

const refuse = (what: string): never => {
  throw new RangeError(what);
};

/** Links may lead to the web or to an address for letters; anything that a browser would run is refused. */
export const isSafeLink = (href: unknown): href is string =>
  typeof href === 'string' && href.length <= 2000 && /^(https?:\/\/|mailto:)/i.test(href);

/** Pictures are named by the SHA-256 of their bytes. */
const isFileName = (value: unknown) => typeof value === 'string' && /^[0-9a-f]{64}$/.test(value);
const isPartId = (value: unknown) => typeof value === 'string' && /^[\w-]{1,40}$/.test(value);

const string = (limit: number) => (value: unknown) => {
  if (typeof value !== 'string' || value.length > limit) refuse('a text of the page is too long');
};
const boolean = (value: unknown) => {
  if (typeof value !== 'boolean') refuse('a mark of the page is neither on nor off');
};
const whole = (least: number, most: number) => (value: unknown) => {
  const fits = Number.isInteger(value) && Number(value) >= least && Number(value) <= most;
  if (!fits) refuse('a number of the page is out of its range');
};
/** A new answer has an empty id until the editor gives it one. */
const id = {
  default: '',
  validate: (value: unknown) =>
    void (value === '' || isPartId(value) || refuse('a part has no usable id')),
};

const data = (node: Node, names: readonly string[]): Attrs =>
  Object.fromEntries(names.map((name) => [`data-${name}`, String(node.attrs[name])]));

/** A place for an answer: `<div data-answer="kind" …>`, read back from the same shape. */
function answer(kind: string, attrs: NonNullable<NodeSpec['attrs']>, rest: NodeSpec): NodeSpec {
  const names = Object.keys(attrs);
  return {
    group: 'block answer',
    isolating: true,
    defining: true,
    attrs,
    parseDOM: [
      {
        tag: `div[data-answer="${kind}"]`,
        getAttrs: (dom) =>
          Object.fromEntries(
            names.map((name) => {
              const text = dom.getAttribute(`data-${name}`) ?? '';
              if (name === 'id') return [name, isPartId(text) ? text : ''];
              if (name === 'several') return [name, text === 'true'];
              return [name, name === 'aim' ? Math.min(5000, Number(text) || 0) : text];
            }),
          ),
      },
    ],
    toDOM: (node): DOMOutputSpec => [
      'div',
      { 'data-answer': kind, class: `answer answer-${kind}`, ...data(node, names) },
      0,
    ],
    ...rest,
  };
}

/** The widths that a picture is given, in hundredths of the page's. */
export const PICTURE_WIDTHS = [25, 50, 75, 100] as const;
const isWidth = (value: number) => Number.isInteger(value) && value >= 1 && value <= 100;
/** How a picture says how wide it is. */
export const widthOf = ({ attrs: { width } }: Node): Attrs =>
  width === 100 ? {} : { 'data-width': width, style: `max-width: ${width}%` };

const nodes = {
  doc: { content: 'block+' },
  text: { group: 'inline' },
  paragraph: {
    group: 'block writing',
    content: 'inline*',
    parseDOM: [{ tag: 'p' }],
    toDOM: () => ['p', 0],
  },
  heading: {
    group: 'block',
    content: 'inline*',
    defining: true,
    attrs: { level: { default: 1, validate: whole(1, 3) } },
    parseDOM: [1, 2, 3, 4, 5, 6].map((level) => ({
      tag: `h${level}`,
      attrs: { level: Math.min(level, 3) },
    })),
    // A page stands under its own title, so its first level is the second of the view.
    toDOM: (node) => [`h${node.attrs.level + 1}`, { class: `level-${node.attrs.level}` }, 0],
  },
  quote: {
    group: 'block writing',
    content: 'paragraph+',
    defining: true,
    parseDOM: [{ tag: 'blockquote' }],
    toDOM: () => ['blockquote', 0],
  },
  rule: { group: 'block', parseDOM: [{ tag: 'hr' }], toDOM: () => ['hr'] },
  /** Lines of a program or of a table of signs, kept as they are typed. */
  code_lines: {
    group: 'block writing',
    content: 'text*',
    marks: '',
    code: true,
    defining: true,
    parseDOM: [{ tag: 'pre', preserveWhitespace: 'full' }],
    toDOM: () => ['pre', ['code', 0]],
  },
  bullet_list: { ...bulletList, content: 'list_item+', group: 'block writing' },
  ordered_list: {
    ...orderedList,
    attrs: { order: { default: 1, validate: whole(0, 100_000) } },
    content: 'list_item+',
    group: 'block writing',
  },
  list_item: { ...listItem, content: 'paragraph block*' },
  picture: {
    group: 'block writing',
    draggable: true,
    attrs: {
      file: { validate: (value: unknown) => void (isFileName(value) || refuse('unknown picture')) },
      alt: { default: '', validate: string(1000) },
      /** In hundredths of the page's width, at most; a small picture is not drawn larger than it is. */
      width: { default: 100, validate: whole(1, 100) },
    },
    parseDOM: [
      {
        tag: 'img[data-file]',
        getAttrs: (dom) => {
          const file = dom.getAttribute('data-file');
          const width = Number(dom.getAttribute('data-width'));
          return isFileName(file)
            ? { file, alt: dom.getAttribute('alt') ?? '', width: isWidth(width) ? width : 100 }
            : false;
        },
      },
    ],
    toDOM: (node) => [
      'img',
      {
        src: `/files/${node.attrs.file}`,
        'data-file': node.attrs.file,
        alt: node.attrs.alt,
        ...widthOf(node),
      },
    ],
  },
  line_break: {
    group: 'inline',
    inline: true,
    selectable: false,
    parseDOM: [{ tag: 'br' }],
    toDOM: () => ['br'],
  },
  formula: {
    group: 'inline',
    inline: true,
    atom: true,
    attrs: { tex: { default: '', validate: string(2000) } },
    leafText: (node) => node.attrs.tex,
    parseDOM: [
      { tag: 'span[data-tex]', getAttrs: (dom) => ({ tex: dom.getAttribute('data-tex') ?? '' }) },
    ],
    toDOM: (node) => ['span', { class: 'formula', 'data-tex': node.attrs.tex }, node.attrs.tex],
  },
  ...tableNodes({ tableGroup: 'block', cellContent: 'block+', cellAttributes: {} }),
  answer_short: answer('short', { id }, { content: 'text*', marks: '' }),
  answer_number: answer(
    'number',
    { id, unit: { default: '', validate: string(40) } },
    { content: 'text*', marks: '' },
  ),
  answer_choice: answer(
    'choice',
    { id, several: { default: false, validate: boolean } },
    { content: 'choice+' },
  ),
  choice: {
    content: 'inline*',
    isolating: true,
    attrs: { id, chosen: { default: false, validate: boolean } },
    parseDOM: [
      {
        tag: 'div[data-choice]',
        getAttrs: (dom) => ({
          id: isPartId(dom.getAttribute('data-choice')) ? dom.getAttribute('data-choice') : '',
        }),
      },
    ],
    toDOM: (node) => ['div', { class: 'choice', 'data-choice': node.attrs.id }, 0],
  },
  answer_writing: answer(
    'writing',
    { id, aim: { default: 0, validate: whole(0, 5000) } },
    { content: 'writing+' },
  ),
  ...drawingNodes,
} satisfies Record<string, NodeSpec>;

/** The one schema of every page: an original, a reading, a copy. */
export const schema = new Schema({
  nodes,
  marks: {
    link: {
      attrs: {
        href: { validate: (value: unknown) => void (isSafeLink(value) || refuse('unsafe link')) },
      },
      inclusive: false,
      parseDOM: [
        {
          tag: 'a[href]',
          getAttrs: (dom) => {
            const href = dom.getAttribute('href');
            return isSafeLink(href) ? { href } : false;
          },
        },
      ],
      toDOM: (mark) => [
        'a',
        { href: mark.attrs.href, rel: 'noopener noreferrer nofollow', target: '_blank' },
        0,
      ],
    },
    strong: {
      parseDOM: [
        { tag: 'strong' },
        { tag: 'b', getAttrs: (dom) => dom.style.fontWeight !== 'normal' && null },
        {
          style: 'font-weight',
          getAttrs: (value) => /^(bold(er)?|[6-9]\d\d)$/.test(value) && null,
        },
      ],
      toDOM: () => ['strong', 0],
    },
    emphasis: {
      parseDOM: [{ tag: 'em' }, { tag: 'i' }, { style: 'font-style=italic' }],
      toDOM: () => ['em', 0],
    },
    underline: {
      parseDOM: [{ tag: 'u' }, { style: 'text-decoration=underline' }],
      toDOM: () => ['u', 0],
    },
    subscript: { excludes: 'superscript', parseDOM: [{ tag: 'sub' }], toDOM: () => ['sub', 0] },
    superscript: { excludes: 'subscript', parseDOM: [{ tag: 'sup' }], toDOM: () => ['sup', 0] },
  },
});

/** A page with nothing on it yet. */
export const emptyPage = (): Node => schema.node('doc', null, [schema.node('paragraph')]);

export const isAnswer = (node: Node): boolean => node.type.isInGroup('answer');
