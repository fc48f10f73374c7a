/** What compresses well. */
const TEXT = /^(text\/(?!event-stream)|application\/(json|javascript)|image\/svg)/;

/** What fits into a packet or two costs more to compress than to send, in bytes. */
const SMALL = 2000;

/** An answer, compressed (gzip, RFC 1952) where it is text and the browser takes that. Streams of news go as they come. */
export function compressed(request: Request, response: Response): Response {
  const { headers, status, body } = response;
  const takes = /\bgzip\b/.test(request.headers.get('accept-encoding') ?? '');
  if (!body || !takes || status === 206 || headers.has('content-encoding')) return response;
  if (Number(headers.get('content-length') ?? Infinity) < SMALL) return response;
  if (!TEXT.test(headers.get('content-type') ?? '')) return response;
  const smaller = new Response(body.pipeThrough(new CompressionStream('gzip')), response);
  smaller.headers.delete('content-length');
  smaller.headers.set('content-encoding', 'gzip');
  smaller.headers.append('vary', 'accept-encoding');
  return smaller;
}
