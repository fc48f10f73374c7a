import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { AttrStep, Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { authored, edits, historyOf, start } from '../../../../tests/support/random-history';
import { guardedTextKept } from '../page/guard';
import { schema } from '../page/schema';
import { moveOn, type Authorship } from './authorship';
import { applyStep, authorshipIn, lastOf, momentIn, type Stretch } from './moment';
import { pagePutBack, stepBetween } from './put-back';

const { nodes } = schema;
const text = (words: string) => schema.text(words);

/** Who wrote what stands at each place of a page. */
const byPlace = (runs: Authorship) =>
  runs.flatMap(({ from, to, author }) =>
    Array.from({ length: to - from }, (_, i) => `${from + i} ${author}`),
  );

describe('any moment of a random history', () => {
  it('is the page that a plain replay of all steps makes, whichever kept page it begins at', () => {
    fc.assert(
      fc.property(edits, fc.nat(), fc.nat(), (made, kept, wanted) => {
        const { pages, steps } = historyOf(made);
        const from = kept % pages.length;
        const doc = pages[from]?.toJSON() as object;
        const authorship = moveOn([], authored(steps.slice(0, from)));
        const stretch: Stretch = {
          version: from,
          doc,
          made: null,
          authorship,
          steps: steps.slice(from),
        };
        const version = from + (wanted % (lastOf(stretch) - from + 1));
        expect(momentIn(stretch, version).toJSON()).toEqual(pages[version]?.toJSON());
        const whole = moveOn([], authored(steps.slice(0, version)));
        expect(byPlace(authorshipIn(stretch, version))).toEqual(byPlace(whole));
      }),
    );
  });

  it('is not made up outside of what was read', () => {
    const stretch: Stretch = {
      version: 3,
      doc: start.toJSON() as object,
      made: null,
      authorship: [],
      steps: [],
    };
    expect(() => momentIn(stretch, 2)).toThrow(RangeError);
    expect(() => momentIn(stretch, 4)).toThrow(RangeError);
  });
});

/** Each place of a page and who wrote it by a plain record, place by place. */
function plainRecord(steps: ReturnType<typeof authored>, size: number): string[] {
  let places: (string | null)[] = Array.from({ length: size }, () => null);
  for (const { step, author } of steps) {
    if (step instanceof AttrStep) places[step.pos] = author;
    step.getMap().forEach((from, to, newFrom, newTo) => {
      const written = Array.from({ length: newTo - newFrom }, () => author);
      places = [...places.slice(0, newFrom), ...written, ...places.slice(newFrom + to - from)];
    });
  }
  return places.flatMap((author, place) => (author === null ? [] : `${place} ${author}`));
}

describe('who wrote what in a random history', () => {
  it('covers each place once, and names who typed, drew, chose or moved it', () => {
    fc.assert(
      fc.property(edits, (made) => {
        const { steps } = historyOf(made);
        const runs = moveOn([], authored(steps));
        expect(byPlace(runs)).toEqual(plainRecord(authored(steps), start.content.size));
      }),
    );
  });
});

describe('putting back', () => {
  it('is one step to the very page: of random histories, A and then B is B', () => {
    fc.assert(
      fc.property(edits, fc.nat(), fc.nat(), (made, first, second) => {
        const { pages } = historyOf(made);
        const wanted = [first, second].map((n) => pages[n % pages.length] ?? start);
        let page = pages.at(-1) ?? start;
        for (const then of wanted) {
          const step = stepBetween(
            page,
            pagePutBack(page, then, { guarded: false, passage: null }),
          );
          const result = step ? applyStep(step, page) : page;
          expect(result.eq(then)).toBe(true);
          if (step) expect(applyStep(step.invert(page), result).eq(page)).toBe(true);
          page = result;
        }
      }),
    );
  });

  it('leaves alone what both pages begin and end with', () => {
    const then = new Transform(start).insert(10, text('high ')).doc;
    const step = stepBetween(then, start);
    expect(step?.toJSON()).toMatchObject({ from: 10, to: 15 });
    expect(stepBetween(start, start)).toBeNull();
  });
});

const GUARDED = { guarded: true, passage: null };

describe('putting back a guarded page', () => {
  it('never changes its own text, whatever of it is put back, in random histories of answers', () => {
    const answers = fc.array(
      edits.map((made) => made.filter(({ kind }) => kind >= 7 && kind <= 11)),
      { minLength: 1, maxLength: 1 },
    );
    fc.assert(
      fc.property(answers, fc.nat(), fc.nat(), fc.nat(), ([made = []], n, from, to) => {
        const { pages } = historyOf(made);
        for (const page of pages) expect(guardedTextKept(start, page)).toBe(true);
        const then = pages[n % pages.length] ?? start;
        // Meanwhile its own text was corrected.
        const now = new Transform(pages.at(-1) ?? start).insert(1, text('Well: ')).doc;
        const { size } = then.content;
        const passage = { from: from % size, to: (from % size) + 1 + (to % size) };
        for (const wanted of [null, passage]) {
          const back = pagePutBack(now, then, { guarded: true, passage: wanted });
          back.check();
          expect(guardedTextKept(now, back)).toBe(true);
        }
        const whole = pagePutBack(now, then, GUARDED);
        expect(whole.child(2).eq(then.child(2))).toBe(true);
        expect(whole.child(3).eq(then.child(3))).toBe(true);
      }),
    );
  });

  const short = (id: string, words: string) =>
    nodes.answer_short.create({ id }, words ? text(words) : null);
  const choice = (id: string, chosen: string) =>
    nodes.answer_choice.create(
      { id },
      ['up', 'down'].map((one) =>
        nodes.choice.create({ id: one, chosen: one === chosen }, text(one)),
      ),
    );
  const page = (asks: string, answer: string, chosen: string, ...more: Node[]) =>
    nodes.doc.create(null, [
      nodes.paragraph.create(null, text(asks)),
      short('height', answer),
      choice('way', chosen),
      ...more,
    ]);

  it('is the page as it stood, while its own text is the same', () => {
    const [then, now] = [page('How high? ', '2.4', 'up'), page('How high? ', '', '')];
    expect(pagePutBack(now, then, GUARDED)).toBe(then);
  });

  it('puts the answers into the text as it is now, where that was corrected since', () => {
    const then = page('How hihg? ', '2.4', 'up');
    const added = [nodes.paragraph.create(null, text('And why? ')), short('why', 'The moon')];
    const now = page('How high? ', '', 'down', ...added);
    const back = pagePutBack(now, then, GUARDED);
    expect(back.eq(page('How high? ', '2.4', 'up', ...added))).toBe(true);
    expect(guardedTextKept(now, back)).toBe(true);
  });

  it('leaves an answer as it is that was of another kind then', () => {
    const then = nodes.doc.create(null, [choice('height', 'up'), choice('way', 'up')]);
    const now = page('How high? ', '2.4', '');
    expect(pagePutBack(now, then, GUARDED).eq(page('How high? ', '2.4', 'up'))).toBe(true);
  });
});
