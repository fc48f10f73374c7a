import fc from 'fast-check';
import { EditorState, TextSelection } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { bringUpToDate, type LoggedStep } from './rebase';
import { receive, unsentIn, unsentSteps, versionOf } from './unsent-steps';

const { nodes } = schema;
const pageOf = (text: string) =>
  nodes.doc.create(null, nodes.paragraph.create(null, text ? schema.text(text) : null));

/** The log, as the server keeps it. */
class Log {
  readonly steps: LoggedStep[] = [];
  constructor(readonly start: ReturnType<typeof pageOf>) {}
  at = (version: number) =>
    this.steps.slice(0, version).reduce((doc, { step }) => step.apply(doc).doc ?? doc, this.start);
}

/** Somebody who types a sentence letter by letter at their cursor, while letters of others arrive. */
class Typist {
  state: EditorState;
  private taken = 0;
  private at = 0;

  constructor(
    private readonly log: Log,
    readonly name: string,
    readonly sentence: string,
    cursor: number,
  ) {
    const state = EditorState.create({ doc: log.start, plugins: [unsentSteps(0)] });
    this.state = state.apply(state.tr.setSelection(TextSelection.create(state.doc, cursor)));
  }

  get finished() {
    return this.at >= this.sentence.length;
  }

  type() {
    if (!this.finished)
      this.state = this.state.apply(this.state.tr.insertText(this.sentence.charAt(this.at++)));
  }

  /** Sends what is unsent, and takes in the answer, as a session does. */
  talk() {
    const base = versionOf(this.state);
    const news = this.log.steps.slice(base);
    const mine = unsentIn(this.state).map((one, i) => ({ ...one, no: this.taken + 1 + i }));
    const { fresh } = bringUpToDate(this.log.at(base), mine, news, this.name);
    this.taken += mine.length;
    this.log.steps.push(...fresh.map((one) => ({ ...one, client: this.name })));
    this.hear();
  }

  hear() {
    const runs: LoggedStep[][] = [];
    for (const entry of this.log.steps.slice(versionOf(this.state))) {
      const last = runs.at(-1);
      const same = last && (last[0]?.client === this.name) === (entry.client === this.name);
      if (same) last.push(entry);
      else runs.push([entry]);
    }
    for (const run of runs)
      this.state = this.state.apply(
        receive(
          this.state,
          run.map(({ step }) => step),
          run[0]?.client === this.name ? run.length : 0,
        ),
      );
  }
}

const deed = fc.record({ who: fc.nat(2), does: fc.constantFrom('type', 'type', 'talk', 'hear') });
const SENTENCES = ['The tide turns at noon. ', 'WE SAW A LIGHT ', '1234567890 '];

/** Lets three type in any order of deeds until all have finished and heard everything. */
function play(start: string, cursors: number[], deeds: { who: number; does: string }[]) {
  const log = new Log(pageOf(start));
  const typists = SENTENCES.map((text, i) => new Typist(log, `w${i}`, text, cursors[i] ?? 1));
  for (const { who, does } of deeds) {
    const typist = typists[who];
    if (does === 'type') typist?.type();
    else if (does === 'talk') typist?.talk();
    else if (typist && unsentIn(typist.state).length === 0) typist.hear();
  }
  while (typists.some(({ finished }) => !finished))
    for (const typist of typists) {
      typist.type();
      typist.talk();
    }
  for (let i = 0; i < 2; i++) for (const typist of typists) typist.talk();
  return { log, typists };
}

describe('several who type at one place', () => {
  it('keep their sentences whole, and see the same page', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 120 }), (deeds) => {
        const { log, typists } = play('', [1, 1, 1], deeds);
        const page = log.at(log.steps.length);
        for (const { state, sentence } of typists) {
          expect(page.textContent).toContain(sentence);
          expect(state.doc.eq(page)).toBe(true);
        }
      }),
      { numRuns: 100 },
    );
  });

  it('keep them whole where one begins behind what another has just written', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 60 }), (deeds) => {
        const log = new Log(pageOf(''));
        const first = new Typist(log, 'w0', SENTENCES[0] ?? '', 1);
        for (let i = 0; i < 8; i++) first.type();
        first.talk();
        const second = new Typist(log, 'w1', SENTENCES[1] ?? '', 1);
        second.hear();
        const end = TextSelection.atEnd(second.state.doc);
        second.state = second.state.apply(second.state.tr.setSelection(end));
        const both = [first, second];
        for (const { who, does } of deeds) {
          const typist = both[who % 2];
          if (does === 'type') typist?.type();
          else typist?.talk();
        }
        while (both.some(({ finished }) => !finished))
          both.forEach((one) => (one.type(), one.talk()));
        for (let i = 0; i < 2; i++) both.forEach((one) => one.talk());
        const text = log.at(log.steps.length).textContent;
        expect(text).toContain(first.sentence);
        expect(text).toContain(second.sentence);
        expect(both.map(({ state }) => state.doc.textContent)).toEqual([text, text]);
      }),
      { numRuns: 100 },
    );
  });

  it('end at the same page wherever they type', () => {
    fc.assert(
      fc.property(
        fc.array(deed, { maxLength: 80 }),
        fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 3, maxLength: 3 }),
        (deeds, cursors) => {
          const { log, typists } = play(
            'low water.',
            cursors.map((at) => Math.min(at, 11)),
            deeds,
          );
          const page = log.at(log.steps.length);
          for (const { state } of typists) expect(state.doc.eq(page)).toBe(true);
        },
      ),
      { numRuns: 80 },
    );
  });
});
