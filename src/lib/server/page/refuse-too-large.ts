import type { Node } from 'prosemirror-model';
import { MOST_BLOCKS, MOST_SIZE, tooLarge } from '$core/page/limits';
import { Refusal } from './refusal';

const most = (limit: number, what: string) =>
  new Refusal(
    413,
    `A page takes up to ${limit.toLocaleString('en')} ${what}, and this would be more. Please divide it into several pages.`,
  );

/** @throws Refusal when a page would be larger than pages are, and than it was */
export function refuseTooLarge(page: Node, was: Node | null = null): void {
  const fault = tooLarge(page, was);
  if (fault === 'too deep')
    throw new Refusal(
      422,
      'Too much would lie inside each other here. Please begin a new list or table.',
    );
  if (fault === 'too long') throw most(MOST_SIZE, 'characters');
  if (fault === 'too much ink')
    throw new Refusal(
      413,
      'This page cannot hold more ink. Please erase something, or draw on in another page.',
    );
  if (fault) throw most(MOST_BLOCKS, 'paragraphs, list items and table cells');
}
