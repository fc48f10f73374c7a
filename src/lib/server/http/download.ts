import { Readable } from 'node:stream';
import { create } from 'content-disposition';

/** Characters that some system does not take in the name of a file. */
const UNSAFE = /[\\/:*?"<>|\p{Cc}]+/gu;

/** An answer that the browser keeps as a file (RFC 6266, RFC 8187); any title makes a name. */
export const download = (name: string, type: string, contents: string | Buffer): Response =>
  new Response(typeof contents === 'string' ? contents : new Uint8Array(contents), {
    headers: headersOf(name, type),
  });

/** The same, of something that is too large to be held at once. @param size in bytes */
export const downloadStream = (
  name: string,
  type: string,
  { size, pieces }: { size: number; pieces: AsyncIterable<Uint8Array> },
): Response =>
  new Response(Readable.toWeb(Readable.from(pieces)) as ReadableStream, {
    headers: { ...headersOf(name, type), 'content-length': String(size) },
  });

const headersOf = (name: string, type: string) => ({
  'content-type': type,
  'content-disposition': dispositionOf(name, 'attachment'),
});

/** How a browser takes an answer (RFC 6266): as a file of that name, or to be shown. */
export const dispositionOf = (name: string, type: 'attachment' | 'inline'): string =>
  create(name.replace(UNSAFE, ' ').replace(/\s+/g, ' ').trim(), { type });
