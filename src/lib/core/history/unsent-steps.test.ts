import fc from 'fast-check';
import { history, undo } from 'prosemirror-history';
import { EditorState } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { dropFirst, unsentIn, unsentSteps } from './unsent-steps';

const { nodes } = schema;
const page = nodes.doc.create(null, nodes.paragraph.create(null, schema.text('low water')));
const begin = () => EditorState.create({ doc: page, plugins: [history(), unsentSteps(0)] });
const type = (state: EditorState, at: number, text: string) =>
  state.apply(state.tr.insert(at, schema.text(text)));

/** What the log would hold of it. */
const logged = (state: EditorState) =>
  unsentIn(state).reduce((doc, { step }) => step.apply(doc).doc ?? doc, page);

describe('a step that the log refuses', () => {
  it('goes, with what was written inside it, and the rest stays', () => {
    let state = type(begin(), 1, 'REFUSED ');
    state = type(state, 4, 'inside');
    state = type(state, state.doc.content.size - 1, ' after');
    const { change, gone } = dropFirst(state);
    const left = state.apply(change);
    expect(left.doc.textContent).toBe('low water after');
    expect(gone).toHaveLength(2);
    expect(logged(left).eq(left.doc)).toBe(true);
  });

  it('leaves a page that the log makes, too, and is not brought back by undoing', () => {
    const edit = fc.record({
      at: fc.nat(),
      remove: fc.boolean(),
      text: fc.constantFrom('a', 'bc'),
    });
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 12 }), fc.nat(6), (edits, undone) => {
        let state = type(begin(), 3, 'REFUSED');
        for (const { at, remove, text } of edits) {
          const place = 1 + (at % (state.doc.content.size - 1));
          const end = Math.min(place + 2, state.doc.content.size - 1);
          state = remove ? state.apply(state.tr.delete(place, end)) : type(state, place, text);
        }
        const { change, gone } = dropFirst(state);
        state = state.apply(change);
        expect(logged(state).eq(state.doc)).toBe(true);
        expect(gone.length).toBeGreaterThan(0);
        for (let n = 0; n < undone; n++) undo(state, (tr) => (state = state.apply(tr)));
        expect(state.doc.textContent).not.toContain('REFUSED');
        expect(logged(state).eq(state.doc)).toBe(true);
        state.doc.check();
      }),
    );
  });
});
