import { Slice, Fragment, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { PASTED, type LoggedJson } from '../history/work-line';
import { schema } from '../page/schema';
import { isPastedOver } from './level';
import { followSteps } from './level-of-steps';

const { nodes } = schema;
const MINUTE = 60_000;
/** Where the words of the answer begin. */
const BEGIN = 2;
const start = nodes.doc.create(null, [
  nodes.answer_writing.create({ id: 'w' }, nodes.paragraph.create()),
]);
const OWN =
  'From the north you first see the headland, because it is the only high thing. Then the end ' +
  'light, which is white, and behind it the crane. The slip is hidden by the mole.';
const OTHER =
  'A tide is the rise and fall of the level of the sea, caused by the pull of the moon and of the ' +
  'sun, and by the turning of the earth. Its times and its range can be read in a table.';

type Change = [minute: number, from: number, to: number, text: string, pasted?: true];
const follow = (...changes: Change[]) => {
  const steps = changes.map(([minute, from, to, text, pasted], i): LoggedJson => {
    const slice = text ? new Slice(Fragment.from(schema.text(text)), 0, 0) : Slice.empty;
    const body = { ...(new ReplaceStep(from, to, slice).toJSON() as object) };
    return {
      version: i + 1,
      author: 'priya',
      at: minute * MINUTE,
      body: pasted ? { ...body, [PASTED]: true } : body,
    };
  });
  const { page, level } = followSteps(start, steps);
  return { page: page as Node, loss: level?.loss ?? null };
};
const all = BEGIN + OWN.length;

describe('a page that was pasted over', () => {
  it('is one whose words a paste took the place of, as many as there were', () => {
    const { loss } = follow([0, BEGIN, BEGIN, OWN], [30, BEGIN, all, OTHER, true]);
    expect(loss).toMatchObject({ version: 1, words: 34, at: 30 * MINUTE });
    expect(loss && isPastedOver(loss)).toBe(true);
  });

  it('is one that was emptied first and pasted into then, also sittings later', () => {
    for (const minute of [31, 90]) {
      const { loss } = follow(
        [0, BEGIN, BEGIN, OWN],
        [30, BEGIN, all, ''],
        [minute, BEGIN, BEGIN, OTHER, true],
      );
      expect(loss).toMatchObject({ version: 1, words: 34, left: 0, at: 30 * MINUTE });
      expect(loss && isPastedOver(loss)).toBe(true);
    }
  });

  it('is none whose own words were cut and pasted, in whatever order', () => {
    const half = BEGIN + OWN.indexOf('Then');
    const [first, second] = [OWN.slice(0, half - BEGIN), OWN.slice(half - BEGIN)];
    for (const pasted of [OWN, `${second} ${first}`])
      expect(
        follow([0, BEGIN, BEGIN, OWN], [30, BEGIN, all, ''], [31, BEGIN, BEGIN, pasted, true]).loss,
      ).toBeNull();
    expect(follow([0, BEGIN, BEGIN, OWN], [30, BEGIN, all, OWN, true]).loss).toBeNull();
  });

  it('is none that a paste was added to', () => {
    expect(follow([0, BEGIN, BEGIN, OWN], [1, all, all, ` ${OTHER}`, true]).loss).toBeNull();
    expect(follow([0, BEGIN, BEGIN, OTHER, true]).loss).toBeNull();
  });

  it('is emptied, not pasted over, where what was pasted is little', () => {
    const { loss } = follow(
      [0, BEGIN, BEGIN, OWN],
      [30, BEGIN, all, ''],
      [31, BEGIN, BEGIN, 'see my other page', true],
    );
    expect(loss).toMatchObject({ words: 34, pasted: 4 });
    expect(loss && isPastedOver(loss)).toBe(false);
  });

  it('is none any more when half as much is written anew', () => {
    const anew = Array.from({ length: 18 }, (_, i) => `word${i}`).join(' ');
    const before: Change[] = [
      [0, BEGIN, BEGIN, OWN],
      [30, BEGIN, all, OTHER, true],
    ];
    const end = BEGIN + OTHER.length;
    expect(follow(...before, [60, end, end, ` ${anew.slice(0, 60)}`]).loss).not.toBeNull();
    expect(follow(...before, [60, end, end, ` ${anew}`]).loss).toBeNull();
  });
});
