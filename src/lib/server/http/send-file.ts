import { Readable } from 'node:stream';
import parseRange from 'range-parser';
import { shownAs } from '$core/attached/shown-as';
import { dispositionOf } from './download';

interface FileToSend {
  name: string;
  type: string | null;
  /** In bytes. */
  size: number;
  bytes: (range: { from: number; to: number }) => AsyncIterable<Uint8Array>;
}

/**
 * A file that somebody brought, or the range of it that is asked for (RFC 9110, section 14): sound and film are begun anywhere. What
 * a page could run is never shown as one, but downloaded.
 */
export function sendFile(request: Request, { name, type, size, bytes }: FileToSend): Response {
  const isShown = shownAs(type) !== 'nothing';
  const headers = {
    'content-type': isShown && type ? type : 'application/octet-stream',
    'content-disposition': dispositionOf(name, isShown ? 'inline' : 'attachment'),
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
    'accept-ranges': 'bytes',
    'cache-control': 'private, max-age=3600',
  };
  const body = (range: { from: number; to: number }) =>
    Readable.toWeb(Readable.from(bytes(range))) as ReadableStream;
  const asked = request.headers.get('range');
  const ranges = asked === null ? null : parseRange(size, asked, { combine: true });
  if (ranges === -1)
    return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } });
  const [range] = Array.isArray(ranges) && ranges.type === 'bytes' ? ranges : [];
  if (!range || (Array.isArray(ranges) && ranges.length > 1))
    return new Response(body({ from: 0, to: size }), {
      headers: { ...headers, 'content-length': String(size) },
    });
  const { start, end } = range;
  return new Response(body({ from: start, to: end + 1 }), {
    status: 206,
    headers: {
      ...headers,
      'content-length': String(end + 1 - start),
      'content-range': `bytes ${start}-${end}/${size}`,
    },
  });
}
