import { Refusal } from '../page/refusal';

/** Of what lies inside each other in one body: a page's own depth is half of this. */
const MOST_LEVELS = 150;

/** PostgreSQL keeps no zero character, and half a surrogate pair is no character at all. */
const isText = (text: string) => !text.includes('\0') && text.isWellFormed();

/** @throws Refusal when a value that came from outside holds what cannot be kept, at whatever depth */
export function checkText(value: unknown): void {
  const waiting: { value: unknown; level: number }[] = [{ value, level: 0 }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value, level } = next;
    if (typeof value === 'string' && !isText(value))
      throw new Refusal(
        422,
        'This text holds a character that is none, so it was not saved. Please type it again instead of pasting it.',
      );
    if (typeof value !== 'object' || value === null) continue;
    if (level >= MOST_LEVELS)
      throw new Refusal(422, 'Too much lies inside each other here, so it was not saved.');
    for (const [name, inner] of Object.entries(value)) {
      if (!isText(name)) throw new Refusal(422, 'A name in the request is not text.');
      waiting.push({ value: inner, level: level + 1 });
    }
  }
}
