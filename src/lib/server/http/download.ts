import { create } from 'content-disposition';

/** Characters that some system does not take in the name of a file. */
const UNSAFE = /[\\/:*?"<>|\p{Cc}]+/gu;

/** An answer that the browser keeps as a file (RFC 6266, RFC 8187); any title makes a name. */
export function download(name: string, type: string, contents: string | Buffer): Response {
  const safe = name.replace(UNSAFE, ' ').replace(/\s+/g, ' ').trim();
  return new Response(typeof contents === 'string' ? contents : new Uint8Array(contents), {
    headers: { 'content-type': type, 'content-disposition': create(safe) },
  });
}
