import { fileTypeFromBuffer } from 'file-type';

/** So many bytes of a file tell its type: those of archives and documents are told by what lies first in them. */
export const TOLD_BY = 1_000_000;

/** A sign that no text has. */
const isNoText = (bytes: Buffer) => bytes.includes(0);

/** Whether bytes are UTF-8; the last character may be cut. */
function isUtf8(bytes: Buffer): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
    return true;
  } catch {
    return false;
  }
}

/**
 * The media type of a file, told from its bytes: what a browser or the file's name says does not count, but for what a text is
 * written in. @param begins its first bytes @returns null where they tell none
 */
export async function tellType(begins: Buffer, name: string): Promise<string | null> {
  const told = await fileTypeFromBuffer(begins);
  if (told) return told.mime;
  if (begins.length === 0 || isNoText(begins) || !isUtf8(begins)) return null;
  return /\.(md|markdown)$/i.test(name) ? 'text/markdown' : 'text/plain';
}
