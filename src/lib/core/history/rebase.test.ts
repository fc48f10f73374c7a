import fc from 'fast-check';
import { Transform, type Step } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import * as Y from 'yjs';
import { schema } from '../page/schema';
import { bringUpToDate, StepDoesNotFit, type LoggedStep, type NumberedStep } from './rebase';
import { textOfStep } from './set-aside';

const { nodes } = schema;
const start = nodes.doc.create(
  null,
  nodes.paragraph.create(null, schema.text('low water, high water')),
);
const stepsOf = (change: (transform: Transform) => Transform, doc = start): Step[] =>
  change(new Transform(doc)).steps;
const numbered = (steps: Step[], first = 1): NumberedStep[] =>
  steps.map((step, i) => ({ no: first + i, step }));
const logged = (client: string, steps: Step[]): LoggedStep[] =>
  numbered(steps).map((one) => ({ ...one, client }));
const replay = (steps: readonly { step: Step }[], doc = start) =>
  steps.reduce((page, { step }) => step.apply(page).doc ?? page, doc);

describe('bringing steps up to date', () => {
  it('moves a later insertion behind an earlier one', () => {
    const theirs = stepsOf((t) => t.insert(1, schema.text('at ')));
    const mine = stepsOf((t) => t.insert(10, schema.text('!')));
    const { fresh, setAside } = bringUpToDate(start, numbered(mine), logged('them', theirs), 'me');
    expect(replay([...logged('them', theirs), ...fresh]).textContent).toBe(
      'at low water!, high water',
    );
    expect(setAside).toEqual([]);
  });

  it('sets words aside whose place is gone, and says which', () => {
    const theirs = stepsOf((t) => t.delete(1, 12));
    const mine = stepsOf((t) => t.insert(5, schema.text('spring ')));
    const { fresh, setAside } = bringUpToDate(start, numbered(mine), logged('them', theirs), 'me');
    expect(fresh).toEqual([]);
    expect(setAside.map(({ step }) => textOfStep(step))).toEqual(['spring ']);
  });

  it('recognises a repeat after a lost answer, and takes in only what is new', () => {
    const t = new Transform(start)
      .insert(1, schema.text('a'))
      .insert(2, schema.text('b'))
      .insert(3, schema.text('c'));
    const before = logged(
      'them',
      stepsOf((one) => one.insert(22, schema.text('.'))),
    );
    const first = bringUpToDate(start, numbered(t.steps.slice(0, 2)), before, 'me').fresh;
    const log = [...before, ...first.map((one) => ({ ...one, client: 'me' }))];
    const again = bringUpToDate(start, numbered(t.steps), log, 'me');
    expect(again.fresh.map(({ no }) => no)).toEqual([3]);
    expect(replay([...log, ...again.fresh]).textContent).toBe('abclow water, high water.');
  });

  it('refuses steps that do not fit the version they name', () => {
    const other = nodes.doc.create(null, nodes.paragraph.create(null, schema.text('x'.repeat(90))));
    const mine = numbered(stepsOf((t) => t.delete(60, 70), other));
    expect(() =>
      bringUpToDate(
        start,
        mine,
        logged(
          'them',
          stepsOf((t) => t.insert(1, schema.text('a'))),
        ),
        'me',
      ),
    ).toThrow(StepDoesNotFit);
  });

  /** One of several writers edits plain text: where (share of the length), how much to delete, what to insert. */
  const edit = fc.record({
    who: fc.nat(2),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    gone: fc.nat(3),
    text: fc.stringMatching(/^[a-z]{0,4}$/),
  });

  it('ends every writer at the page of the log, and loses no insertion but to set-aside', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 30 }), (edits) => {
        const log: LoggedStep[] = [];
        const aside: string[] = [];
        const inserted: string[] = [];
        const bases = [0, 0, 0];
        const numbers = [0, 0, 0];
        for (const { who, at, gone, text } of edits) {
          // Each writer works on what its last answer brought; what others did since is news to it.
          const base = replay(log.slice(0, bases[who]));
          const size = base.content.size - 2;
          const from = 1 + Math.floor(at * size);
          const transform = new Transform(base);
          if (gone) transform.delete(from, Math.min(from + gone, size + 1));
          if (text)
            transform.insert(Math.min(from, transform.doc.content.size - 1), schema.text(text));
          if (!transform.docChanged) continue;
          const mine = numbered(transform.steps, (numbers[who] ?? 0) + 1);
          numbers[who] = (numbers[who] ?? 0) + mine.length;
          const result = bringUpToDate(base, mine, log.slice(bases[who]), `w${who}`);
          log.push(...result.fresh.map((one) => ({ ...one, client: `w${who}` })));
          aside.push(...result.setAside.map(({ step }) => textOfStep(step)));
          inserted.push(...mine.map(({ step }) => textOfStep(step)));
          bases[who] = log.length;
        }
        const taken = log.map(({ step }) => textOfStep(step));
        expect([...taken, ...aside].sort().join('|')).toBe(inserted.sort().join('|'));
        replay(log).check();
      }),
      { numRuns: 300 },
    );
  });

  it('agrees with a Yjs document that is fed the same edits one after another', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 40 }), (edits) => {
        const shared = new Y.Doc().getText('page');
        shared.insert(0, start.textContent);
        const log: LoggedStep[] = [];
        edits.forEach(({ who, at, gone, text }, index) => {
          const doc = replay(log);
          const size = doc.content.size - 2;
          const from = Math.floor(at * size);
          const length = Math.min(gone, size - from);
          const transform = new Transform(doc);
          if (length) transform.delete(1 + from, 1 + from + length);
          if (text) transform.insert(1 + from, schema.text(text));
          const { fresh } = bringUpToDate(
            doc,
            numbered(transform.steps, index * 10 + 1),
            [],
            `w${who}`,
          );
          log.push(...fresh.map((one) => ({ ...one, client: `w${who}` })));
          if (length) shared.delete(from, length);
          if (text) shared.insert(from, text);
        });
        expect(replay(log).textContent).toBe(shared.toString());
      }),
      { numRuns: 200 },
    );
  });

  it('agrees with Yjs documents of writers who are away for a while, each at words of their own', () => {
    const spell = fc.record({
      who: fc.nat(2),
      at: fc.double({ min: 0, max: 1, noNaN: true }),
      text: fc.stringMatching(/^[a-z]{1,4}$/),
      comesBack: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(spell, { maxLength: 40 }), (spells) => {
        // Each writes inside brackets of their own, so that no two of them insert at the very same place.
        const begin = '[0][1][2]';
        const page = nodes.doc.create(null, nodes.paragraph.create(null, schema.text(begin)));
        const first = new Y.Doc();
        first.getText('page').insert(0, begin);
        const docs = [0, 1, 2].map((id) => {
          const doc = new Y.Doc();
          doc.clientID = id + 1;
          Y.applyUpdate(doc, Y.encodeStateAsUpdate(first));
          return doc;
        });
        const log: LoggedStep[] = [];
        const bases = [0, 0, 0];
        const waiting: NumberedStep[][] = [[], [], []];
        let no = 0;
        const comeBack = (who: number) => {
          const mine = waiting[who] ?? [];
          const base = replay(log.slice(0, bases[who]), page);
          const { fresh } = bringUpToDate(base, mine, log.slice(bases[who]), `w${who}`);
          log.push(...fresh.map((one) => ({ ...one, client: `w${who}` })));
          waiting[who] = [];
          bases[who] = log.length;
          // The first document is what the log is.
          const doc = docs[who] ?? first;
          Y.applyUpdate(first, Y.encodeStateAsUpdate(doc));
          Y.applyUpdate(doc, Y.encodeStateAsUpdate(first));
        };
        for (const { who, at, text, comesBack } of spells) {
          const own = replay([...log.slice(0, bases[who]), ...(waiting[who] ?? [])], page);
          const here = own.textContent;
          const [from, to] = [
            here.indexOf(`[${who}`) + 2,
            here.indexOf(']', here.indexOf(`[${who}`)),
          ];
          const place = from + Math.floor(at * (to - from));
          const { steps } = new Transform(own).insert(1 + place, schema.text(text));
          waiting[who]?.push(...numbered(steps, ++no));
          docs[who]?.getText('page').insert(place, text);
          if (comesBack) comeBack(who);
        }
        for (const who of [0, 1, 2]) comeBack(who);
        expect(replay(log, page).textContent).toBe(first.getText('page').toString());
      }),
      { numRuns: 200 },
    );
  });
});
