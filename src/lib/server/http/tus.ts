import { Refusal } from '../page/refusal';

/**
 * The parts of "tus 1.0.0: Resumable Uploads" (tus.io, the core protocol with its extensions *creation* and *termination*) by which
 * files come in pieces.
 */
const VERSION = { 'tus-resumable': '1.0.0' };

/** An answer of that protocol. */
export const tusAnswer = (status: number, headers: Record<string, string> = {}): Response =>
  new Response(null, { status, headers: { ...VERSION, 'cache-control': 'no-store', ...headers } });

/** A whole number of a header. @throws Refusal when it is none */
export function wholeOf(request: Request, header: string): number {
  const text = request.headers.get(header) ?? '';
  if (!/^\d{1,15}$/.test(text)) throw new Refusal(400, `The header ${header} is no whole number.`);
  return Number(text);
}

/** The file's name, as `Upload-Metadata` has it. */
export function nameOf(request: Request): string {
  const pairs = (request.headers.get('upload-metadata') ?? '').split(',');
  const [, coded = ''] =
    pairs.map((pair) => pair.trim().split(' ')).find(([key]) => key === 'filename') ?? [];
  const name = Buffer.from(coded, 'base64')
    .toString('utf8')
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cs}]/gu, '')
    .replace(/^.*[\\/]/, '')
    .trim();
  return [...name].slice(0, 200).join('') || 'file';
}

/** @throws Refusal when this is no piece of a file */
export function checkPiece(request: Request): void {
  if (request.headers.get('content-type') !== 'application/offset+octet-stream')
    throw new Refusal(415, 'This is not a piece of a file.');
}
