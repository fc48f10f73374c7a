import type { Node } from 'prosemirror-model';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';
import { textOf } from '../page/parts';
import type { AnswerKey } from './answer-key';
import { writePoints } from './points';

/** What is expected in each part, by the part's id. */
export type Keys = Record<string, AnswerKey>;

/** A key that an original changed since a page was adapted from it. */
export interface KeyChange {
  part: string;
  was: AnswerKey | null;
  is: AnswerKey | null;
  /** What the adapted page expects. */
  mine: AnswerKey | null;
  /** Names the change. */
  key: string;
}

const written = (key: AnswerKey | null) =>
  key === null ? '' : JSON.stringify(Object.entries(key).sort(([a], [b]) => (a < b ? -1 : 1)));

/** The keys of an original that changed, in parts that an adapted page has, too, and which it does not expect already. */
export function keyChanges(was: Keys, is: Keys, mine: Keys, parts: readonly string[]): KeyChange[] {
  return parts.flatMap((part) => {
    const [before, now, own] = [was[part] ?? null, is[part] ?? null, mine[part] ?? null];
    if (written(before) === written(now) || written(now) === written(own)) return [];
    return [{ part, was: before, is: now, mine: own, key: `key of ${part}: ${written(now)}` }];
  });
}

/** The words of a choice's options in a page, by their ids. */
export function optionsOf(page: Node, part: string): ReadonlyMap<string, string> {
  const options = new Map<string, string>();
  page.descendants((node) => {
    if (node.type.name === 'answer_choice' && node.attrs.id === part)
      node.forEach((option) => void options.set(option.attrs.id, textOf(option)));
  });
  return options;
}

/** A key in words. `options`: the words of a choice's options, by their ids. */
export function sayKey(key: AnswerKey | null, options: ReadonlyMap<string, string>): string {
  if (!key) return 'nothing';
  const worth = key.points === undefined ? '' : `, ${writePoints(key.points)} points`;
  return `${sayExpected(key, options)}${worth}${'partial' in key && key.partial ? ', or parts of them' : ''}`;
}

function sayExpected(key: AnswerKey, options: ReadonlyMap<string, string>): string {
  if (key.kind === 'by hand') return 'scored by hand';
  if (key.kind === 'short')
    return listed(
      key.accepted.map((one) => `“${one}”`),
      'or',
    );
  if (key.kind === 'choice') {
    const known = key.right.flatMap((id) => options.get(id) ?? []);
    return known.length === key.right.length
      ? listed(known.map((one) => `“${one}”`))
      : counted(key.right.length, 'choice');
  }
  if (key.kind === 'pieces') return `${counted(Object.keys(key.places).length, 'piece')} placed`;
  const { value, unit, tolerance } = key;
  return [value, unit, tolerance && `± ${tolerance}`].filter(Boolean).join(' ');
}
