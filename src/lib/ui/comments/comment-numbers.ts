import type { Node } from 'prosemirror-model';
import { Decoration } from 'prosemirror-view';
import type { ThreadView } from '$core/copy/threads';

/** The number of each comment on a page, behind the words that it is on; those on the whole copy have none there. */
export const commentNumbers = (page: Node, threads: readonly ThreadView[]): Decoration[] =>
  threads.flatMap(({ anchor }, index) => {
    if (!anchor || anchor.to > page.content.size) return [];
    const sign = () => {
      const number = document.createElement('sup');
      number.className = 'comment-number';
      number.textContent = String(index + 1);
      return number;
    };
    return [
      Decoration.inline(anchor.from, anchor.to, { class: 'commented' }),
      Decoration.widget(anchor.to, sign, { key: `comment ${index}`, side: 1 }),
    ];
  });
