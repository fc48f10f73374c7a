import { describe, expect, it } from 'vitest';
import type { Part } from '../page/parts';
import { keyAccepting, type AnswerKey } from './answer-key';
import { Checked, checkParts, givenFault } from './check-copy';
import type { Keys } from './key-changes';
import { givenIn, pointsOfPart, sayParts, sumParts } from './sum-parts';

const part = (id: string, answer: string, more: Partial<Part> = {}): Part => ({
  id,
  kind: 'short',
  number: 1,
  label: `What is ${id}?`,
  done: answer !== '',
  answer,
  chosen: [],
  detail: '',
  ...more,
});
const KEYS: Keys = {
  name: { kind: 'short', accepted: ['ebb'] },
  height: { kind: 'number', value: '2.6', tolerance: '0.1', unit: 'm' },
};
const says = (checked: Checked | null) => checked && sayParts(sumParts(checked));

describe('the check of a copy', () => {
  it('counts parts with a key, each one point where nothing else is said, and says of each why', () => {
    const parts = [
      part('name', ' EBB '),
      part('height', '2.6 kg', { kind: 'number' }),
      part('essay', 'Long.', { kind: 'writing' }),
    ];
    const checked = checkParts(parts, KEYS);
    expect(checked?.parts.map(({ id, verdict }) => [id, verdict])).toEqual([
      ['name', 'right'],
      ['height', 'wrong unit'],
    ]);
    expect(says(checked)).toBe('1 of 2 right');
    expect(checkParts(parts, {})).toBeNull();
    expect(checkParts([], KEYS)).toBeNull();
  });

  it('counts each part for its own points, and leaves to a person what has no answer that is expected', () => {
    const keys: Keys = {
      name: { kind: 'short', accepted: ['ebb'], points: '2' },
      essay: { kind: 'by hand', points: '7.5' },
    };
    const parts = [part('name', 'ebb'), part('essay', 'Long.', { kind: 'writing' })];
    expect(says(checkParts(parts, keys))).toBe('2 of 9½ points so far, 1 part left');
    const given = { essay: { points: '6', reason: '' } };
    const checked = checkParts(parts, keys, given);
    expect(says(checked)).toBe('8 of 9½ points');
    expect(givenIn(checked)).toEqual(given);
    expect(checked && givenFault(checked, given)).toBeNull();
  });

  it('takes an answer that was accepted later, and leaves the others to a person where it did before', () => {
    const accepting = (key: AnswerKey | null, answer: string) =>
      keyAccepting(key, [answer]) ?? { kind: 'by hand' as const, points: '9' };
    const verdict = (one: Part, key: AnswerKey) =>
      checkParts([one], { [one.id]: key })?.parts[0]?.verdict;
    const byHand = accepting({ kind: 'by hand', points: '2' }, ' Ebb tide ');
    expect(verdict(part('a', 'ebb TIDE'), byHand)).toBe('right');
    expect(verdict(part('a', 'flood'), byHand)).toBe('by hand');
    expect(verdict(part('a', ''), byHand)).toBe('no answer');
    const short = accepting({ kind: 'short', accepted: ['ebb'] }, 'falling tide');
    expect(verdict(part('a', 'falling tide'), short)).toBe('right');
    expect(verdict(part('a', 'flood'), short)).toBe('wrong');
    const height: AnswerKey = { kind: 'number', value: '2.6', tolerance: '', unit: 'm' };
    const number = accepting(height, 'two and a half');
    expect(verdict(part('n', 'Two and a half', { kind: 'number' }), number)).toBe('right');
    expect(verdict(part('n', '2.6', { kind: 'number' }), number)).toBe('right');
    expect(keyAccepting({ kind: 'choice', right: ['a'] }, ['b'])).toBeNull();
    expect(keyAccepting(null, ['b'])).toBeNull();
  });

  it('counts a part as somebody decided, whatever its key says, and asks why', () => {
    const parts = [part('name', 'flood'), part('height', '', { kind: 'number' })];
    const given = {
      name: { points: '1', reason: 'Said aloud.' },
      gone: { points: '9', reason: '' },
    };
    const checked = checkParts(parts, KEYS, given);
    expect(checked?.parts).toMatchObject([
      { verdict: 'wrong', points: '0', given: { points: '1', reason: 'Said aloud.' } },
      { verdict: 'no answer' },
    ]);
    expect(says(checked)).toBe('1 of 2 right');
    expect(givenIn(checked)).toEqual({ name: given.name });
    expect(givenIn(null)).toEqual({});
    const bare = checkParts(parts, KEYS) ?? { parts: [] };
    expect(givenFault(bare, given)).toBeNull();
    expect(givenFault(bare, { name: { points: '1', reason: '' } })).toMatch(
      /^Please say why part 1/,
    );
    expect(givenFault(bare, { name: { points: '0', reason: '' } })).toBeNull();
    expect(givenFault(bare, { name: { points: '1.5', reason: 'Fine.' } })).toBe(
      'Part 1 counts for 1 point, and not for more.',
    );
  });

  it('reads what was checked before parts had points', () => {
    const old = Checked.parse({
      parts: [
        { id: 'a', number: 1, label: '', answer: '', verdict: 'wrong', overruled: 'right' },
        { id: 'b', number: 2, label: '', answer: '', verdict: 'right' },
        { id: 'c', number: 3, label: '', answer: '', verdict: 'right', overruled: 'wrong' },
      ],
    });
    expect(old.parts.map(pointsOfPart)).toEqual(['1', '1', '0']);
    expect(givenIn(old)).toEqual({
      a: { points: '1', reason: '' },
      c: { points: '0', reason: '' },
    });
    expect(says(old)).toBe('2 of 3 right');
  });

  it('holds nothing of the keys, and no more of an answer than is shown', () => {
    const checked = checkParts([part('name', 'x'.repeat(5000))], KEYS);
    expect(Checked.parse(checked).parts[0]?.answer).toHaveLength(500);
    expect(JSON.stringify(checked)).not.toContain('ebb');
  });
});

describe('parts of the points', () => {
  const points = (one: Part, key: AnswerKey) =>
    checkParts([one], { [one.id]: key })?.parts[0]?.points;
  it('of several choices: those that are right less those that are not', () => {
    const key: AnswerKey = { kind: 'choice', right: ['a', 'b', 'c', 'd'], points: '4' };
    const chosen = (...ids: string[]) => part('c', 'x', { kind: 'choice', chosen: ids });
    expect(points(chosen('a', 'b', 'c'), key)).toBe('0');
    const parted: AnswerKey = { ...key, partial: true };
    expect(points(chosen('a', 'b', 'c', 'd'), parted)).toBe('4');
    expect(points(chosen('a', 'b', 'c'), parted)).toBe('3');
    expect(points(chosen('a', 'b', 'x'), parted)).toBe('1');
    expect(points(chosen('a', 'x', 'y'), parted)).toBe('0');
    expect(points(chosen(), parted)).toBe('0');
  });
  it('of pieces: those that are on their spots, rounded to hundredths', () => {
    const places = { red: 'port', green: 'starboard', white: 'stern' };
    const placed = (...chosen: string[]) => part('d', '', { kind: 'drawing', chosen });
    const key: AnswerKey = { kind: 'pieces', places, partial: true };
    expect(points(placed('red@port', 'green@port'), key)).toBe('0.33');
    expect(points(placed('red@port', 'green@starboard'), key)).toBe('0.67');
  });
  it('of the right number in another unit: half', () => {
    const key: AnswerKey = {
      kind: 'number',
      value: '2.6',
      tolerance: '0.1',
      unit: 'm',
      onlyUnit: true,
      points: '2',
      partial: true,
    };
    const number = (answer: string) => part('n', answer, { kind: 'number' });
    expect(points(number('2.65 km'), key)).toBe('1');
    expect(points(number('260 cm'), key)).toBe('0');
    expect(points(number('4 m'), key)).toBe('0');
  });
  it('of a word with one letter wrong: half, if it is long enough', () => {
    const key: AnswerKey = { kind: 'short', accepted: ['flood', 'ebb'], partial: true };
    expect(points(part('s', 'Flod'), key)).toBe('0.5');
    expect(points(part('s', 'fluud'), key)).toBe('0');
    expect(points(part('s', 'eb'), key)).toBe('0');
    expect(points(part('s', ''), key)).toBe('0');
  });
});
