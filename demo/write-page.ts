import type { Node } from 'prosemirror-model';
import { schema } from '../src/lib/core/page/schema';

/** Short ways to write a page down. */
const { nodes } = schema;
const text = (words: string) => (words ? [schema.text(words)] : []);
export const p = (words: string) => nodes.paragraph.create(null, text(words));
export const h = (level: number, words: string) => nodes.heading.create({ level }, text(words));
export const list = (...items: string[]) =>
  nodes.bullet_list.create(
    null,
    items.map((item) => nodes.list_item.create(null, p(item))),
  );
export const short = (id: string) => nodes.answer_short.create({ id });
export const number = (id: string, unit: string) => nodes.answer_number.create({ id, unit });
export const writing = (id: string, aim: number) => nodes.answer_writing.create({ id, aim }, p(''));
export const choice = (id: string, options: string[], several = false) =>
  nodes.answer_choice.create(
    { id, several },
    options.map((option, index) => nodes.choice.create({ id: `${id}-${index + 1}` }, text(option))),
  );
/** A place to draw on a picture: with spots, and pieces that belong on them. */
export const drawing = (
  id: string,
  about: { file: string; alt: string; height: number },
  spots: Record<string, string> = {},
  pieces: Record<string, string> = {},
) =>
  nodes.answer_drawing.create({ id, ...about }, [
    ...Object.entries(spots).map(([spot, at]) => nodes.spot.create({ id: spot, at })),
    ...Object.entries(pieces).map(([piece, text]) => nodes.piece.create({ id: piece, text })),
  ]);
export const table = (rows: (string | Node)[][]) =>
  nodes.table.create(
    null,
    rows.map((row, r) =>
      nodes.table_row.create(
        null,
        row.map((cell, c) => {
          const type = r === 0 || c === 0 ? nodes.table_header : nodes.table_cell;
          return type.create(null, typeof cell === 'string' ? p(cell) : cell);
        }),
      ),
    ),
  );
export const page = (...blocks: Node[]) => nodes.doc.create(null, blocks);
