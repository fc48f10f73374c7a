import type { Cut } from '$core/collecting/collected';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import type { PartOfFile } from './part-of-file';

/** Of a stack that is cut, in bytes: all of it is held at once. */
const MOST_STACK = 100_000_000;

/** Each student's sheets of a scanned stack, in the order of the cuts. @throws Refusal when it cannot be cut */
export async function cutStack(
  app: Using<'threads'>,
  bytes: AsyncIterable<Buffer>,
  cuts: readonly Cut[],
): Promise<PartOfFile[]> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of bytes) {
    pieces.push(piece);
    size += piece.length;
    if (size > MOST_STACK)
      throw new Refusal(
        413,
        `This stack is larger than ${MOST_STACK / 1_000_000} MB. Please scan it in two.`,
      );
  }
  const cut = await app.threads.run({
    kind: 'cut',
    name: 'stack.pdf',
    bytes: Buffer.concat(pieces),
    pieces: cuts.map(({ pages }) => pages),
  });
  return cuts.map(({ pages, student }, index) => ({
    path: `${sayPages(pages)}.pdf`,
    bytes: [Buffer.from(cut[index] ?? [])],
    student,
  }));
}

/** "Sheet 3", "Sheets 3 to 6". */
function sayPages(pages: readonly number[]): string {
  const [first, last] = [pages[0] ?? 0, pages.at(-1) ?? 0];
  return pages.length === 1 ? `Sheet ${first}` : `Sheets ${first} to ${last}`;
}
