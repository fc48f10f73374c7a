import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copyRow } from '../../../../tests/support/copies';
import { reduceEvents, type CopyEvent } from '../copy/reduce';
import { asStudentSees, type CopyRow } from '../copy/copy-row';
import type { News } from './news';
import { patchCopies, wantsReading } from './patch-copies';

const row = (id: string, of: Partial<CopyRow> = {}, events: CopyEvent[] = []): CopyRow => {
  const { openers, ...handing } = reduceEvents(events, 'tamsin');
  return copyRow({ id, assignment: 'tides', openers, facts: handing, ...of });
};
const written = (page: string, version: number, mask = '10'): News => ({
  kind: 'written',
  steps: null,
  page,
  version,
  copy: { mask, words: version, at: version * 10, loss: null },
});

describe('the copies of a view', () => {
  it('take in what was written, and leave the others as they are', () => {
    const copies = [row('a'), row('b')];
    const next = patchCopies(copies, [written('b', 3)], 'tamsin');
    expect(next[0]).toBe(copies[0]);
    expect(next[1]).toMatchObject({ version: 3, mask: '10', words: 3, facts: { written: 30 } });
    expect(patchCopies(copies, [written('elsewhere', 3)], 'tamsin')).toBe(copies);
  });

  it('keep the later of two that crossed, and what happened besides', () => {
    const handedIn = row('a', { version: 2, mask: '10' }, [
      { kind: 'opened', at: 1, person: 'ada' },
      { kind: 'handed in', at: 50, person: 'ada' },
    ]);
    const crossed: News[] = [
      written('a', 3, '11'),
      { kind: 'copy', page: 'a', version: 2, by: 'ada', row: handedIn },
    ];
    for (const order of [crossed, [...crossed].reverse()])
      expect(patchCopies([row('a')], order, 'tamsin')[0]).toMatchObject({
        version: 3,
        mask: '11',
        openers: ['ada'],
        facts: { handedIn: 50, written: 30 },
      });
  });

  it('stand as the row says in all that it has, and keep what the view knows besides', () => {
    const each = [{ student: 'ada', handedIn: 60, counted: null, takenBack: null }];
    const said = row('a', { version: 1, each, replaced: true, members: ['ada', 'dayo'] });
    const news: News[] = [{ kind: 'copy', page: 'a', version: 1, by: 'ada', row: said }];
    const [next] = patchCopies([{ ...row('a'), title: 'What we both found' }], news, 'tamsin');
    expect(next).toEqual({ ...said, title: 'What we both found' });
  });

  it('know whose look it was', () => {
    const look = row('a', {}, [{ kind: 'looked', at: 70, person: 'tamsin' }]);
    const news: News[] = [{ kind: 'copy', page: 'a', version: 0, by: 'tamsin', row: look }];
    expect(patchCopies([row('a')], news, 'tamsin')[0]?.facts).toMatchObject({
      looked: 70,
      staffLooked: 70,
    });
    expect(patchCopies([row('a')], news, 'bea')[0]?.facts).toMatchObject({
      looked: null,
      staffLooked: 70,
    });
  });

  it('come to what reading them again would give, whatever is written in whatever order', () => {
    const news = fc.array(fc.tuple(fc.constantFrom('a', 'b'), fc.nat(20)), { maxLength: 12 });
    fc.assert(
      fc.property(news, fc.nat(12), (list, cut) => {
        const heard = list.map(([page, version]) => written(page, version));
        const one = patchCopies([row('a'), row('b')], heard, 'x');
        const two = patchCopies(
          patchCopies([row('a'), row('b')], heard.slice(0, cut), 'x'),
          heard.slice(cut),
          'x',
        );
        expect(two).toEqual(one);
        for (const copy of one) {
          const versions = list.filter(([page]) => page === copy.id).map(([, version]) => version);
          expect(copy.version).toBe(Math.max(0, ...versions));
        }
      }),
    );
  });

  it('are read again after a sleep, for what a row cannot say, and for a copy that is not shown', () => {
    const view = { classes: new Set(['8C']), copies: [row('a')] };
    const copy = (page: string, klass = '8C'): News => ({
      kind: 'copy',
      page,
      version: 0,
      by: 'ada',
      row: row(page, { class: klass }),
    });
    expect(wantsReading('resync', view)).toBe(true);
    expect(wantsReading([{ kind: 'class', class: '8C' }], view)).toBe(true);
    expect(wantsReading([copy('new')], view)).toBe(true);
    expect(
      wantsReading(
        [copy('a'), copy('new', '8A'), { kind: 'class', class: '8A' }, written('new', 3)],
        view,
      ),
    ).toBe(false);
  });
});

it('a student is told no points before they are handed back, and of others’ openings nothing', () => {
  const copy = row('a', { points: '7', openers: ['ada', 'finn'] });
  const scored = { ...copy, facts: { ...copy.facts, scored: 5, looked: 6 } };
  expect(asStudentSees(scored, 'ada')).toMatchObject({
    points: null,
    openers: ['ada'],
    facts: { scored: null, looked: null },
  });
});
