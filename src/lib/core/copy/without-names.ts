import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { schema } from '../page/schema';

/** What stands in the place of a name. */
const GAP = '…';

const escape = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Finds each of these names, whole, in letters of any case; the longest first. Null for no names. */
function finderOf(names: readonly string[]): RegExp | null {
  const words = [...new Set(names.flatMap((name) => [name, ...name.split(/[\s-]+/)]))]
    .map((name) => name.trim())
    .filter((name) => [...name].length > 1)
    .sort((a, b) => b.length - a.length)
    .map((name) => escape(name).replaceAll(/['’]/g, "['’]"));
  if (words.length === 0) return null;
  return new RegExp(`(?<![\\p{L}\\p{N}])(?:${words.join('|')})(?![\\p{L}\\p{N}])`, 'giu');
}

/** The values of attributes with their texts changed, however deep they lie. */
function inValues(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((one) => inValues(one, change));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [key, inValues(one, change)]),
  );
}

interface NodeJson {
  attrs?: Record<string, unknown>;
  marks?: NodeJson[];
  content?: NodeJson[];
}

/**
 * A page in which these names are not to be read: neither in its words, be they divided by marks, nor in what is written into
 * its drawings or beside its pictures. What a picture itself shows stays.
 * @param names given and family names; each of their words counts as one, too
 */
export function withoutNames(page: Node, names: readonly string[]): Node {
  const finder = finderOf(names);
  if (!finder) return page;
  const places: { from: number; to: number }[] = [];
  page.descendants((node, start) => {
    if (!node.isTextblock) return true;
    let text = '';
    const at: number[] = [];
    node.descendants((inside, offset) => {
      // What is no text divides words.
      const letters = inside.text ?? '\ufffc';
      for (let index = 0; index < letters.length; index++) at.push(start + 1 + offset + index);
      text += letters;
    });
    for (const { 0: found, index } of text.matchAll(finder)) {
      const [from, last] = [at[index], at[index + found.length - 1]];
      if (from !== undefined && last !== undefined) places.push({ from, to: last + 1 });
    }
    return false;
  });
  const change = new Transform(page);
  for (const { from, to } of places.reverse())
    change.replaceWith(from, to, schema.text(GAP, page.resolve(from + 1).marks()));
  const clean = (json: NodeJson): NodeJson => ({
    ...json,
    ...(json.attrs && {
      attrs: inValues(json.attrs, (text) => text.replaceAll(finder, GAP)) as NodeJson['attrs'],
    }),
    // Where a link leads may say a name, too.
    ...(json.marks && { marks: json.marks.map(clean) }),
    ...(json.content && { content: json.content.map(clean) }),
  });
  return schema.nodeFromJSON(clean(change.doc.toJSON() as NodeJson));
}
