import { wholeMask } from '../attached/attached';
import type { CopyRow } from '../copy/copy-row';
import type { Heard, News } from './news';

/** The parts of a copy's page alone. */
const pageMask = ({ mask, attached }: CopyRow) => (attached.length > 0 ? mask.slice(0, -1) : mask);

function patched<T extends CopyRow>(copy: T, news: News, me: string): T {
  if (news.kind === 'written') {
    // Of two that crossed on their way the later one counts.
    if (!news.copy || news.version < copy.version) return copy;
    const { words, at, loss } = news.copy;
    const mask = wholeMask(news.copy.mask, copy.attached);
    const facts = { ...copy.facts, written: at };
    return { ...copy, version: news.version, mask, words, loss, facts };
  }
  if (news.kind !== 'copy') return copy;
  const { row, by } = news;
  const isOlder = row.version < copy.version;
  const { words, version } = isOlder ? copy : row;
  const mask = isOlder ? wholeMask(pageMask(copy), row.attached) : row.mask;
  return {
    ...copy,
    ...row,
    mask,
    words,
    version,
    loss: isOlder ? copy.loss : row.loss,
    facts: {
      ...row.facts,
      written: isOlder ? copy.facts.written : row.facts.written,
      // The row was read by whoever did something; their looks are not mine.
      looked: by === me ? row.facts.looked : copy.facts.looked,
    },
  };
}

/** A view's copies with what was heard. @param me who looks at them @returns the same list where nothing is new */
export function patchCopies<T extends CopyRow>(
  copies: readonly T[],
  heard: readonly News[],
  me: string,
): readonly T[] {
  const news = new Map<string, News[]>();
  for (const one of heard)
    if (one.kind === 'written' || one.kind === 'copy')
      news.set(one.page, [...(news.get(one.page) ?? []), one]);
  if (!copies.some(({ id }) => news.has(id))) return copies;
  return copies.map((copy) =>
    (news.get(copy.id) ?? []).reduce((now, one) => patched(now, one, me), copy),
  );
}

/**
 * Whether a view has to be read again: it may have missed something, one of its classes changed, or a copy of them that it
 * does not show stands differently.
 */
export function wantsReading(
  heard: Heard,
  view: { classes: ReadonlySet<string>; copies: readonly { id: string }[] },
): boolean {
  if (heard === 'resync') return true;
  return heard.some(
    (one) =>
      (one.kind === 'class' && view.classes.has(one.class)) ||
      (one.kind === 'copy' &&
        view.classes.has(one.row.class) &&
        !view.copies.some(({ id }) => id === one.page)),
  );
}
