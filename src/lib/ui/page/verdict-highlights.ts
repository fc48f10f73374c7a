import { Plugin } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import type { AnswerKey } from '$core/marking/answer-key';
import { checkAnswer, type Verdict } from '$core/marking/check-answer';
import { partsOf } from '$core/page/parts';
import { isAnswer } from '$core/page/schema';

const SAYS: Record<Verdict, string> = {
  right: '✓',
  wrong: '✗',
  unreadable: 'not a number ✗',
  'wrong unit': 'another unit ✗',
};
const WHY: Record<Verdict, string> = {
  right: '',
  wrong: '',
  unreadable: ': it cannot be read as a number',
  'wrong unit': ': it is in another unit',
};

/** Shows a teacher which answers agree with the key: by colour, by a sign, and in words. */
export const verdictHighlights = (keys: Record<string, AnswerKey>): Plugin =>
  new Plugin({
    props: {
      decorations(state) {
        const parts = new Map(partsOf(state.doc).map((part) => [part.id, part]));
        const marks: Decoration[] = [];
        state.doc.descendants((node, pos) => {
          if (!isAnswer(node)) return true;
          const key = keys[node.attrs.id];
          const part = parts.get(node.attrs.id);
          const verdict = key && part ? checkAnswer(part, key) : null;
          if (verdict)
            marks.push(
              Decoration.node(pos, pos + node.nodeSize, {
                class: verdict === 'right' ? 'answer-right' : 'answer-wrong',
                'data-says': SAYS[verdict],
                title:
                  verdict === 'right' ? 'agrees with your key' : `against your key${WHY[verdict]}`,
              }),
            );
          return false;
        });
        return DecorationSet.create(state.doc, marks);
      },
    },
  });
