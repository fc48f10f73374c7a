import type { Node } from 'prosemirror-model';

/**
 * A short mark of a page's contents by which a client notices that its page is not the server's.
 * FNV-1a, 32 bits, over the page's JSON (offset basis and prime: RFC 9923); no protection against intent.
 */
export function fingerprint(page: Node): string {
  let hash = 0x811c9dc5;
  for (const unit of JSON.stringify(page.toJSON())) {
    hash ^= unit.codePointAt(0) ?? 0;
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16);
}
