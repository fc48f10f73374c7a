import fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { sinkListItem } from 'prosemirror-schema-list';
import { EditorState, TextSelection } from 'prosemirror-state';
import { ReplaceStep, Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { edits, start, write } from '../../../../tests/support/random-history';
import { bringUpToDate } from '../history/rebase';
import { countWords, partsOf } from '../page/parts';
import { schema } from '../page/schema';
import { offerOf } from './make-offer';
import { follow, followAll, taken, type Offer } from './offer';
import { separate, type EditStep } from './separate';

const { nodes } = schema;
const line = (words: string) => nodes.paragraph.create(null, words ? schema.text(words) : null);
const pageOf = (...lines: string[]) => nodes.doc.create(null, lines.map(line));
const places = (page: Node, words: string) => {
  let from = -1;
  page.descendants((node, pos) => {
    const at = node.isText ? (node.text ?? '').indexOf(words) : -1;
    if (at >= 0 && from < 0) from = pos + at;
  });
  return { from, to: from + words.length };
};
const page = pageOf('The water go up slowly at first.', 'I would wait.');

/** What somebody proposes who types these words over others, letter by letter. */
function typed(on: Node, over: string, words: string) {
  const { from, to } = places(on, over);
  const change = new Transform(on);
  change.delete(from, to);
  [...words].forEach((sign, index) => change.insert(from + index, schema.text(sign)));
  return change.steps.map((step) => ({ step, edit: step }));
}
const offers = (on: Node, of: readonly EditStep[]): Offer[] =>
  separate(on, of).flatMap(({ steps }) => (steps.length > 0 ? [offerOf(on, steps)] : []));
const only = (on: Node, of: readonly EditStep[]): Offer => {
  const [offer, ...more] = offers(on, of);
  if (!offer || more.length > 0) throw new Error('not one proposal');
  return offer;
};

describe('what is proposed', () => {
  it('is whole words, however they were typed', () => {
    const offer = only(page, typed(page, 'go', 'goes'));
    expect(offer.steps).toHaveLength(1);
    expect(offer.takesOut).toEqual([places(page, 'go')]);
    expect(taken(page, offer)?.textContent).toContain('The water goes up');
    // One letter more is another word.
    const { to } = places(page, 'water');
    const letter = new Transform(page).insert(to, schema.text('s')).steps;
    const word = only(
      page,
      letter.map((step) => ({ step, edit: step })),
    );
    expect(word.takesOut).toEqual([places(page, 'water')]);
  });

  it('is one by one: what does not touch can be taken without the others', () => {
    const change = new Transform(page);
    const write = (over: string, words: string) => {
      const { from, to } = places(change.doc, over);
      change.replaceWith(from, to, schema.text(words));
    };
    write('go', 'goes');
    write('first', 'the start');
    write('wait', 'wait until 09:30');
    const made = offers(
      page,
      change.steps.map((step) => ({ step, edit: step })),
    );
    expect(made).toHaveLength(3);
    expect(made.map((offer) => taken(page, offer)?.textContent)).toEqual([
      'The water goes up slowly at first.I would wait.',
      'The water go up slowly at the start.I would wait.',
      'The water go up slowly at first.I would wait until 09:30.',
    ]);
  });

  it('is one where a word loses letters and is made bold in part: the word is replaced as a whole', () => {
    const { from } = places(page, 'water');
    const change = new Transform(page);
    change.delete(from + 2, from + 3);
    change.addMark(from - 4, from + 1, schema.marks.strong.create());
    change.delete(places(change.doc, 'wait').from, places(change.doc, 'wait').to);
    const edits = change.steps.map((step) => ({ step, edit: step }));
    const made = offers(page, edits);
    expect(made).toHaveLength(2);
    expect(takeAll(page, made).eq(change.doc)).toBe(true);
  });

  it('comes to nothing where it was typed and taken back', () => {
    expect(offers(page, typed(page, 'go', 'go'))).toEqual([]);
  });

  it('is nothing that is on the page: counts and parts see what the student wrote', () => {
    const copy = nodes.doc.create(null, [
      nodes.answer_short.create({ id: 'a' }, schema.text('three')),
      nodes.answer_writing.create({ id: 'b', aim: 4 }, [line('The water go up')]),
    ]);
    const offer = only(copy, typed(copy, 'three', 'four flashes'));
    expect(partsOf(copy).map(({ answer }) => answer)).toEqual(['three', 'The water go up']);
    expect(countWords(copy.textBetween(0, copy.content.size, ' '))).toBe(5);
    // In an answer without marks it stands as well as anywhere.
    expect(partsOf(taken(copy, offer) ?? copy)[0]?.answer).toBe('four flashes');
  });
});

describe('a proposal on a page that is written on', () => {
  const goes = only(page, typed(page, 'go', 'goes'));
  const after = (change: (page: Transform) => Transform) => {
    const next = change(new Transform(page));
    const now = followAll(goes, next.mapping.maps);
    return now && taken(next.doc, now)?.textContent;
  };

  it('follows its words', () => {
    expect(after((next) => next.insert(1, schema.text('Look: ')))).toContain('The water goes up');
    expect(after((next) => next.insert(0, line('A line more.')))).toContain('The water goes up');
    // What is typed at its edges is left alone.
    const { from, to } = places(page, 'go');
    expect(
      after((next) => next.insert(to, schema.text('!')).insert(from, schema.text('('))),
    ).toContain('The water (goes! up');
  });

  it('has no place once its words are gone or others, and never lands elsewhere', () => {
    const { from, to } = places(page, 'go');
    expect(after((next) => next.delete(from, to))).toBeNull();
    expect(after((next) => next.delete(1, 12))).toBeNull();
    expect(after((next) => next.insert(from + 1, schema.text('r')))).toBeNull();
    expect(after((next) => next.replaceWith(from, to, schema.text('went')))).toBeNull();
    expect(after((next) => next.replaceWith(from, to, schema.text('go')))).toBeNull();
  });

  it('that inserts stays while a word beside its place is left', () => {
    const { to } = places(page, 'wait');
    const insert = (at: number, words: string) =>
      offerOf(page, new Transform(page).insert(at, schema.text(words)).steps);
    const until = insert(to, ' until 09:30');
    const next = new Transform(page).insert(to, schema.text(' a little'));
    // Behind the word it was put behind, whatever the student types there.
    const now = followAll(until, next.mapping.maps);
    expect(now && taken(next.doc, now)?.textContent).toContain(
      'I would wait until 09:30 a little.',
    );
    const verb = new Transform(page).delete(to - 4, to);
    expect(followAll(until, verb.mapping.maps)).toBeNull();
    const typedOver = new Transform(page).replaceWith(to - 4, to, schema.text('stay'));
    expect(followAll(until, typedOver.mapping.maps)).toBeNull();
    const mended = new Transform(page).replaceWith(to - 1, to, schema.text('ve'));
    expect(followAll(until, mended.mapping.maps)).not.toBeNull();
    // Within a run of words each of the two holds it.
    const { from } = places(page, 'go');
    const does = insert(from, 'does ');
    expect(followAll(does, new Transform(page).delete(from - 6, from).mapping.maps)).not.toBeNull();
    expect(followAll(does, new Transform(page).delete(from - 6, from + 2).mapping.maps)).toBeNull();
    // What stands behind a sentence goes with it, and not to the next one.
    const end = places(page, 'first.').to;
    const more = insert(end, ' Then fast.');
    expect(followAll(more, new Transform(page).delete(1, end).mapping.maps)).toBeNull();
    // In a line without words it stays while the line is there.
    const empty = pageOf('One.', '', 'Two.');
    const line2 = offerOf(empty, new Transform(empty).insert(7, schema.text('New')).steps);
    expect(followAll(line2, new Transform(empty).delete(1, 5).mapping.maps)).not.toBeNull();
    expect(followAll(line2, new Transform(empty).delete(0, 10).mapping.maps)).toBeNull();
  });

  it('that indents, formats or moves goes on meaning the same', () => {
    const item = (words: string) => nodes.list_item.create(null, line(words));
    const list = nodes.doc.create(null, nodes.bullet_list.create(null, [item('one'), item('two')]));
    const at = places(list, 'two').from;
    const state = EditorState.create({
      doc: list,
      selection: TextSelection.create(list, at),
    });
    let sunk: Offer | null = null;
    sinkListItem(nodes.list_item)(state, ({ steps }) => (sunk = offerOf(list, steps)));
    const typing = new Transform(list).insert(at, schema.text('and ')).insert(3, schema.text('a '));
    const now: Offer | null = sunk && followAll(sunk, typing.mapping.maps);
    expect(String(now && taken(typing.doc, now))).toBe(
      'doc(bullet_list(list_item(paragraph("a one"), bullet_list(list_item(paragraph("and two"))))))',
    );

    const { from, to } = places(page, 'slowly');
    const bold = offerOf(page, new Transform(page).addMark(from, to, schema.mark('strong')).steps);
    const shorter = new Transform(page).delete(from + 2, to);
    const marked = followAll(bold, shorter.mapping.maps);
    expect(String(marked && taken(shorter.doc, marked))).toContain('strong("sl")');
    expect(
      follow(bold, new Transform(page).delete(from - 1, to).mapping.maps[0] ?? fail()),
    ).toBeNull();

    const move = new Transform(page).delete(1, 5);
    move.insert(move.mapping.map(places(page, 'wait').from), schema.text('The '));
    const [moved, ...more] = offers(
      page,
      move.steps.map((step) => ({ step, edit: move })),
    );
    expect(more).toEqual([]);
    const later = new Transform(page).insert(places(page, 'slowly').from, schema.text('very '));
    const placed = moved && followAll(moved, later.mapping.maps);
    expect(placed && taken(later.doc, placed)?.textContent).toBe(
      'water go up very slowly at first.I would The wait.',
    );
  });
});

function fail(): never {
  throw new Error('a change without a map');
}

/** Somebody's edits on a page, one after the other. */
function written(on: Node, made: readonly Parameters<typeof write>[1][]) {
  const change = new Transform(on);
  const steps: EditStep[] = [];
  for (const edit of made) {
    const before = change.steps.length;
    try {
      write(change, edit);
    } catch {
      // Not every edit is possible everywhere; what it had done stays.
    }
    for (const step of change.steps.slice(before)) steps.push({ step, edit });
  }
  return { steps, doc: change.doc };
}
const touches = (a: Offer, b: Offer): boolean => {
  // What one takes out may be what holds the other.
  const out = ({ takesOut }: Offer, { beside }: Offer) =>
    takesOut.some((one) => beside.some(({ from, to }) => one.from < to && from < one.to));
  if (out(a, b) || out(b, a)) return true;
  const reach = ({ steps, takesOut }: Offer) => [
    ...takesOut,
    ...steps.flatMap((step) => {
      const { from, to } = step.toJSON() as { from?: number; to?: number };
      return from === undefined || to === undefined ? [] : [{ from, to }];
    }),
  ];
  return reach(a).some((one) => reach(b).some(({ from, to }) => one.from <= to && from <= one.to));
};
/** Takes one after the other, each followed over those before. */
function takeAll(on: Node, all: readonly Offer[]): Node {
  let now = on;
  let left = [...all];
  for (let next = left.shift(); next; next = left.shift()) {
    const maps = next.steps.map((step) => step.getMap());
    const then = taken(now, next);
    if (!then) throw new Error('one that does not touch does not fit');
    now = then;
    left = left.map((offer) => {
      const moved = followAll(offer, maps);
      if (!moved) throw new Error('one that does not touch lost its place');
      return moved;
    });
  }
  return now;
}

describe('proposals and writing, in any order', () => {
  const words = 'The water comes up slowly, then fast, and then slowly again.';
  const long = pageOf(words, words, 'A boat waits.', words, '', words);
  /** Here and there a word, a few letters gone, a line divided, something bold, a list. */
  const small = fc.array(
    fc
      .record({
        kind: fc.constantFrom(0, 1, 2, 2, 3, 4, 5),
        at: fc.nat(970),
        more: fc.nat(30),
        words: fc.constantFrom('a', ' and ', '🌊', 'The tide turns'),
      })
      .map(({ at, more, ...edit }) => ({
        ...edit,
        at: at / 1000,
        to: (at + more) / 1000,
        behind: 0,
      })),
    { minLength: 2, maxLength: 12 },
  );
  const pages = fc.oneof(
    fc.record({ on: fc.constant(long), theirs: small, mine: small }),
    fc.record({ on: fc.constant(start), theirs: edits, mine: edits }),
  );

  it('taken all together are what was meant, in every order; left, the page is what its student wrote', () => {
    let several = 0;
    const orders = fc.infiniteStream(fc.nat(1000));
    fc.assert(
      fc.property(small, orders, (made, order) => {
        const { steps, doc } = written(long, made);
        const all = offers(long, steps);
        const loose = all.filter((one) =>
          all.every((other) => one === other || !touches(one, other)),
        );
        if (loose.length > 2) several += 1;
        const shuffled = loose
          .map((offer) => ({ offer, by: order.next().value }))
          .sort((a, b) => a.by - b.by)
          .map(({ offer }) => offer);
        expect(takeAll(long, shuffled).eq(takeAll(long, loose))).toBe(true);
        if (loose.length === all.length) expect(takeAll(long, all).eq(doc)).toBe(true);
      }),
      { numRuns: 500 },
    );
    expect(several).toBeGreaterThan(100);
  });

  it('stand on both sides at the same place, or on neither', () => {
    let taking = 0;
    let ended = 0;
    fc.assert(
      fc.property(pages, fc.nat(29), ({ on, theirs, mine }, cut) => {
        const proposed = offers(on, written(on, theirs.slice(0, 6)).steps);
        const student = written(on, mine);
        const maps = student.steps.map(({ step }) => step.getMap());
        for (const offer of proposed) {
          const now = followAll(offer, maps);
          // Heard of in two runs it is the same as heard of at once.
          const early = followAll(offer, maps.slice(0, cut));
          const late = early && followAll(early, maps.slice(cut));
          expect(JSON.stringify(late)).toBe(JSON.stringify(now));
          const server = now && taken(student.doc, now);
          if (!server) {
            ended += 1;
            continue;
          }
          taking += 1;
          // A student who typed on meanwhile ends at the page of the server.
          const typing = new Transform(student.doc);
          if (typing.doc.firstChild?.isTextblock) typing.insert(1, schema.text('x'));
          const log = now.steps.map((step, index) => ({ no: index + 1, step, client: 'server' }));
          const unsent = typing.steps.map((step, index) => ({ no: index + 1, step }));
          const { fresh } = bringUpToDate(student.doc, unsent, log, 'student');
          expect(fresh.every(({ step }) => step.apply(server).failed === null)).toBe(true);
        }
      }),
      { numRuns: 400 },
    );
    expect(taking).toBeGreaterThan(50);
    expect(ended).toBeGreaterThan(20);
  });

  it('take out nothing but the words that they were made on', () => {
    fc.assert(
      fc.property(pages, ({ on, theirs, mine }) => {
        const proposed = offers(on, written(on, theirs.slice(0, 4)).steps);
        const student = written(on, mine);
        const maps = student.steps.map(({ step }) => step.getMap());
        const out = (on: Node, { takesOut }: Offer) =>
          takesOut.map(({ from, to }) => on.textBetween(from, to, '|', '*'));
        for (const offer of proposed) {
          const now = followAll(offer, maps);
          if (now) expect(out(student.doc, now)).toEqual(out(on, offer));
        }
      }),
      { numRuns: 300 },
    );
  });
});

it('a step that replaces is kept as it is where it cannot be one', () => {
  const two = new Transform(page).delete(1, 5).insert(1, line('Now')).steps;
  const [group] = separate(
    page,
    two.map((step) => ({ step, edit: 'one' })),
  );
  expect(group?.steps.every((step) => step instanceof ReplaceStep)).toBe(true);
});
