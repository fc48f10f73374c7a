import type { Node } from 'prosemirror-model';

/** A word of a line, a space or sign between words, or something in the line that is no text. */
export interface Word {
  /** What it says, without its marks. */
  key: string;
  /** With which marks which of its characters are written. */
  marks: string;
  /** Where it begins in the line. */
  from: number;
  /** Whether it has letters or digits, or is no text. */
  isWord: boolean;
}

// Words as Unicode divides text (UAX 29): also in languages without spaces.
const segmenter = new Intl.Segmenter('en', { granularity: 'word' });

/** A run without spaces, and the spaces behind it: no word goes over its end. The segmenter's time goes by the square. */
const PIECE = /\S{1,200}\s*|\s+/gu;

/** The words of a textblock, in order; together they are all of it. */
export function wordsOf(line: Node): Word[] {
  const words: Word[] = [];
  let [text, start] = ['', 0];
  /** The marks of each character of `text`. */
  let marks: string[] = [];
  const divide = () => {
    for (const { 0: piece, index: begin } of text.matchAll(PIECE))
      for (const { segment, index, isWordLike } of segmenter.segment(piece)) {
        const at = begin + index;
        words.push({
          key: segment,
          marks: runsOf(marks.slice(at, at + segment.length)),
          from: start + at,
          isWord: isWordLike === true,
        });
      }
    [text, marks] = ['', []];
  };
  line.forEach((node, offset) => {
    if (node.isText) {
      if (text === '') start = offset;
      text += node.text ?? '';
      const written = JSON.stringify(node.marks.map((mark) => mark.toJSON()));
      for (let i = 0; i < node.nodeSize; i++) marks.push(written);
      return;
    }
    divide();
    words.push({
      key: JSON.stringify(node.toJSON()),
      marks: '',
      from: offset,
      isWord: true,
    });
  });
  divide();
  return words;
}

/** The marks of the characters of a word, each run of the same once. */
const runsOf = (marks: readonly string[]): string =>
  marks.map((one, index) => (one === marks[index - 1] ? '' : `${index}${one}`)).join('');
