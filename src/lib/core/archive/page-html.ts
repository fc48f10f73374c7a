import katex from 'katex';
import type { DOMOutputSpec, Fragment, Mark, Node } from 'prosemirror-model';
import { readDrawing } from '../page/drawing';
import { groundOf, shapeOf, type Shape } from '../page/drawing-svg';
import { widthOf } from '../page/schema';
import { MOST_EMS } from '../text/formulas';
import { escape } from './html';

/** A formula as MathML, which browsers draw themselves: no style, no font, no script. */
export const formulaHtml = (tex: string): string =>
  katex.renderToString(tex, { output: 'mathml', throwOnError: false, maxSize: MOST_EMS });

/** Where a picture of the page lies, as the value of `src`. @param hash by which pages name it */
type PictureAt = (hash: string) => string;

/** Elements that hold nothing. */
const EMPTY = new Set(['br', 'hr', 'img']);

/** What the schema says of a node or mark, as HTML around what is inside it. */
function specHtml(spec: DOMOutputSpec, inside: string): string {
  if (typeof spec === 'string') return escape(spec);
  if (!Array.isArray(spec)) throw new TypeError('the schema draws with elements, not with texts');
  const [tag, ...rest]: [string, ...unknown[]] = [String(spec[0]), ...spec.slice(1)];
  const [first, ...others] = rest;
  const hasAttributes = typeof first === 'object' && first !== null && !Array.isArray(first);
  const attributes = hasAttributes
    ? Object.entries(first)
        .flatMap(([name, value]) =>
          value === null || value === undefined ? [] : ` ${name}="${escape(String(value))}"`,
        )
        .join('')
    : '';
  if (EMPTY.has(tag)) return `<${tag}${attributes}>`;
  const children = (hasAttributes ? others : rest)
    .map((child) => (child === 0 ? inside : specHtml(child as DOMOutputSpec, inside)))
    .join('');
  return `<${tag}${attributes}>${children}</${tag}>`;
}

const markHtml = (mark: Mark, inside: string): string => {
  const spec = mark.type.spec.toDOM?.(mark, true);
  return spec ? specHtml(spec, inside) : inside;
};

const shapeHtml = ({ name, attrs, inside }: Shape): string => {
  const written = Object.entries(attrs).map(([key, value]) => ` ${key}="${escape(String(value))}"`);
  const content = typeof inside === 'string' ? escape(inside) : inside.map(shapeHtml).join('');
  return `<${name}${written.join('')}>${content}</${name}>`;
};

/** A drawing as SVG, with the words on it for whoever cannot see it. */
function drawingHtml(drawing: Node, pictureAt: PictureAt): string {
  const { viewBox, ground } = groundOf(drawing, pictureAt);
  const { answer, detail } = readDrawing(drawing);
  const says = [drawing.attrs.alt || 'Drawing', detail, answer].filter(Boolean).join(': ');
  const shapes = [...ground, ...drawing.children.map((child) => shapeOf(drawing, child))];
  const attrs = {
    viewBox,
    width: '100%',
    role: 'img',
    'aria-label': says,
    'font-family': 'sans-serif',
  };
  return shapeHtml({ name: 'svg', attrs, inside: shapes });
}

/** How a chosen option and another look, where several can be chosen and where one can. */
const SIGNS = { true: ['☑', '☐'], false: ['◉', '○'] } as const;

function nodeHtml(node: Node, pictureAt: PictureAt, parent: Node | null): string {
  const { name } = node.type;
  if (node.isText) return escape(node.text ?? '');
  if (name === 'formula') return formulaHtml(String(node.attrs.tex));
  if (name === 'picture')
    return `<p>${specHtml(['img', { src: pictureAt(String(node.attrs.file)), alt: node.attrs.alt, style: widthOf(node).style }], '')}</p>`;
  if (name === 'answer_drawing') return `<div class="answer">${drawingHtml(node, pictureAt)}</div>`;
  const inside = fragmentHtml(node.content, pictureAt, node);
  if (name === 'choice') {
    const [chosen, other] = SIGNS[parent?.attrs.several ? 'true' : 'false'];
    return `<div class="choice"><span>${node.attrs.chosen ? chosen : other}</span> ${inside}</div>`;
  }
  if (name === 'answer_number')
    return `<div class="answer">${inside} <span class="unit">${escape(String(node.attrs.unit))}</span></div>`;
  if (node.type.isInGroup('answer')) return `<div class="answer">${inside}</div>`;
  const spec = node.type.spec.toDOM?.(node);
  return spec ? specHtml(spec, inside) : inside;
}

const isSame = (a: Mark | null | undefined, b: Mark | undefined): boolean =>
  a != null && b !== undefined && a.eq(b);

/** Marks that go on from one piece of text to the next stand around both, as prosemirror-model's serializer has it. */
function fragmentHtml(content: Fragment, pictureAt: PictureAt, parent: Node): string {
  const open: { mark: Mark | null; html: string }[] = [{ mark: null, html: '' }];
  const add = (html: string) => {
    const last = open.at(-1);
    if (last) last.html += html;
  };
  const close = (depth: number) => {
    while (open.length > depth) {
      const { mark, html } = open.pop() ?? { mark: null, html: '' };
      add(mark ? markHtml(mark, html) : html);
    }
  };
  content.forEach((node) => {
    let kept = 0;
    while (kept < node.marks.length && isSame(open[kept + 1]?.mark, node.marks[kept])) kept++;
    close(kept + 1);
    for (const mark of node.marks.slice(kept)) open.push({ mark, html: '' });
    add(nodeHtml(node, pictureAt, parent));
  });
  close(1);
  return open[0]?.html ?? '';
}

/** A page's content as HTML that needs nothing but the pictures beside it. */
export const pageHtml = (page: Node, pictureAt: PictureAt): string =>
  fragmentHtml(page.content, pictureAt, page);
