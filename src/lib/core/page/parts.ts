import type { Node } from 'prosemirror-model';
import { TableMap } from 'prosemirror-tables';
import { placedOn, readDrawing } from './drawing';
import { isAnswer } from './schema';

type PartKind = 'short' | 'number' | 'choice' | 'writing' | 'drawing';

/** One thing a page asks for. */
export interface Part {
  id: string;
  kind: PartKind;
  /** Counts from 1, in reading order. */
  number: number;
  /** The words that ask for it: the text before it, or the headings of its row and column. */
  label: string;
  done: boolean;
  /** What was answered: the text, the chosen options' texts, or what is written on a drawing. */
  answer: string;
  /** The ids of the options that were chosen; of a drawing, of its pieces with their spots: "piece@spot". */
  chosen: readonly string[];
  /** How far, in words a person reads: "38 of about 120 words", "2.6 m", "". */
  detail: string;
}

const WORD = /[\p{L}\p{N}]+(?:[’'.,-][\p{L}\p{N}]+)*/gu;

/** Words as a reader counts them: "don't", "1.9" and "north-east" are one each. */
export const countWords = (text: string): number => text.match(WORD)?.length ?? 0;

/** The text of a node with a space where a block ends. */
export const textOf = (node: Node): string => node.textBetween(0, node.content.size, ' ').trim();

/** A writing is done at three quarters of its aim: "about 120 words" (common practice, no source). */
const enoughWords = (words: number, aim: number): boolean => words >= Math.max(1, aim * 0.75);

/** What is longer is no number, however many digits it has. */
const LONGEST_NUMBER = 200;

/**
 * Reads "2.6", "2,6", "−1.5", "1.2e3" or "2.6 m", also in full-width digits (Unicode's NFKC) and between signs that nobody
 * sees; null when it is no number. `unit` is what follows the digits.
 */
export function readNumber(text: string): { digits: string; unit: string } | null {
  // The pattern tries places again where spaces meet: on a short text that costs nothing.
  if (text.length > LONGEST_NUMBER) return null;
  const plain = text.normalize('NFKC').replace(/\p{Cf}/gu, '');
  const match =
    /^\s*((?:[-+−]?\d[\d\s']*(?:[.,]\d+)?|[-+−]?[.,]\d+)(?:[eE][-+−]?\d{1,3}(?!\d))?)\s*(\S.*)?$/.exec(
      plain,
    );
  const unit = match?.[2]?.trim() ?? '';
  // A power of ten that nobody means, or digits that go on.
  if (!match?.[1] || /^[eE][-+−]?\d|^[\d.,]/.test(unit)) return null;
  const digits = match[1].replaceAll('−', '-').replace(/[\s']/g, '').replace(',', '.');
  return { digits, unit };
}

function read(node: Node): Pick<Part, 'kind' | 'done' | 'answer' | 'chosen' | 'detail'> {
  if (node.type.name === 'answer_choice') {
    const options = node.children.filter(({ attrs }) => attrs.chosen);
    const answer = options.map(textOf).join(', ');
    const chosen = options.map(({ attrs }) => String(attrs.id));
    return { kind: 'choice', done: chosen.length > 0, answer, chosen, detail: answer };
  }
  if (node.type.name === 'answer_drawing') {
    const chosen = [...placedOn(node)].map(([piece, spot]) => `${piece}@${spot}`);
    return { kind: 'drawing', chosen, ...readDrawing(node) };
  }
  const chosen: string[] = [];
  const answer = textOf(node);
  if (node.type.name === 'answer_writing') {
    const words = countWords(answer);
    const aim = Number(node.attrs.aim);
    const detail = aim
      ? `${words} of about ${aim} words`
      : words === 1
        ? '1 word'
        : `${words} words`;
    return { kind: 'writing', done: enoughWords(words, aim), answer, chosen, detail };
  }
  if (node.type.name === 'answer_number') {
    const number = readNumber(answer);
    const detail = number && !number.unit ? `${answer} ${node.attrs.unit}`.trim() : answer;
    return { kind: 'number', done: number !== null, answer, chosen, detail };
  }
  return { kind: 'short', done: answer !== '', answer, chosen, detail: answer };
}

/** What a cell is asked by, by where it begins in its table: the headings of its row and column, "height, m · 3". */
function cellLabels(table: Node): Map<number, string> {
  const { map, width } = TableMap.get(table);
  const headOf = (index: number, cell: number) => {
    const head = map[index];
    return head === undefined || head === cell ? '' : textOf(table.nodeAt(head) ?? table);
  };
  const labels = new Map<number, string>();
  for (const [index, cell] of map.entries()) {
    // Of a merged cell its first place counts.
    if (labels.has(cell)) continue;
    const [row, column] = [Math.floor(index / width), index % width];
    const heads = [column > 0 && headOf(row * width, cell), row > 0 && headOf(column, cell)];
    labels.set(cell, heads.filter(Boolean).join(' · '));
  }
  return labels;
}

const shorten = (text: string) => (text.length > 80 ? `${text.slice(0, 79).trimEnd()}…` : text);

/** All parts of a page in reading order. Answers do not hold answers. */
export function partsOf(page: Node): Part[] {
  const parts: Part[] = [];
  function walk(parent: Node, inherited: string) {
    let asked = inherited;
    parent.forEach((node, _, index) => {
      if (isAnswer(node)) {
        const number = parts.length + 1;
        const label = shorten(asked) || `Part ${number}`;
        parts.push({ id: node.attrs.id, number, label, ...read(node) });
      } else if (node.type.name === 'table') {
        const labels = cellLabels(node);
        node.forEach((row, below) =>
          row.forEach((cell, beside) => walk(cell, labels.get(below + 1 + beside) ?? '')),
        );
      } else if (node.isTextblock) {
        asked = textOf(node) || asked;
      } else if (!node.isLeaf) {
        walk(node, index === 0 ? inherited : asked);
      }
    });
  }
  walk(page, '');
  return parts;
}

/** Where a part stands on a page: all of its answer; null where it is not there. */
export function placeOfPart(page: Node, part: string): { from: number; to: number } | null {
  let place: { from: number; to: number } | null = null;
  page.descendants((node, pos) => {
    if (isAnswer(node) && node.attrs.id === part) place = { from: pos, to: pos + node.nodeSize };
    return place === null;
  });
  return place;
}

/** What was written: in a page's places for answers, or on all of it where it has none. */
export const textWritten = (page: Node, parts: readonly Part[]): string =>
  parts.length === 0 ? textOf(page) : parts.map(({ answer }) => answer).join('\n');

/** How many words that are. */
export const wordsWritten = (page: Node, parts: readonly Part[]): number =>
  countWords(textWritten(page, parts));

/** Which parts are done, one character each: "101" is the first and third of three. */
export const doneMask = (parts: readonly Part[]): string =>
  parts.map((part) => (part.done ? '1' : '0')).join('');

/** How far a copy is. */
export const partsDone = (mask: string): { done: number; asked: number } => ({
  done: mask.replaceAll('0', '').length,
  asked: mask.length,
});
