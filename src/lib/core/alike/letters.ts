import type { Node } from 'prosemirror-model';

/** A line of a page as it is compared: its letters and digits in small letters, without spaces and signs. */
export interface Letters {
  text: string;
  /** Where each of them stands on the page. */
  places: number[];
}

const LETTER = /[\p{L}\p{N}]/u;

/** The lines of a page, each for itself: answers that stand below one another are not one passage. */
export function lettersOf(page: Node): Letters[] {
  const lines: Letters[] = [];
  page.descendants((node, pos) => {
    if (!node.isTextblock) return true;
    const line: Letters = { text: '', places: [] };
    node.forEach((child, offset) => {
      let at = pos + 1 + offset;
      for (const sign of child.text ?? '') {
        // One sign may be several; an accent does not make another letter of it.
        for (const letter of sign.normalize('NFKD').toLowerCase()) {
          if (!LETTER.test(letter)) continue;
          line.text += letter;
          for (let i = 0; i < letter.length; i++) line.places.push(at);
        }
        at += sign.length;
      }
    });
    if (line.text) lines.push(line);
    return false;
  });
  return lines;
}
