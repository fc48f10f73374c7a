/** Of a name in bytes of UTF-8, its ending included: with its folders it fits what unpacking programs take. */
const MOST_BYTES = 120;
/** Names of devices, which some systems keep for themselves, whatever ending follows (from memory). */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$/i;
/** What some system refuses in a name; what a manifest would have to write otherwise (RFC 8493, 2.1.3); what turns the direction of its letters (Unicode TR 36, section 3). */
const UNSAFE = /[\\/:*?"<>|%\p{Cc}\p{Co}\p{Cn}\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]+/gu;

const bytes = new TextEncoder();
const sizeOf = (text: string) => bytes.encode(text).length;

/** As much of the beginning of a text as fits into so many bytes; no sign is cut in two. */
function cut(text: string, most: number): string {
  if (sizeOf(text) <= most) return text.trim();
  let [kept, size] = ['', 0];
  for (const { segment } of new Intl.Segmenter().segment(text)) {
    size += sizeOf(segment);
    if (size > most) break;
    kept += segment;
  }
  return kept.trim();
}

/**
 * A title as part of a path that every system takes: NFC, readable, at most 120 bytes with `room` left for what follows.
 * @param room bytes that are kept free
 */
function safe(title: string, room: number): string {
  const plain = title
    .toWellFormed()
    .normalize('NFC')
    .replace(UNSAFE, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  // No dot at either end: hidden in one system, forbidden in another.
  const name = cut(plain.replace(/^[. ]+/, ''), MOST_BYTES - room).replace(/[. ]+$/, '');
  if (name === '') return 'Untitled';
  const [stem = ''] = name.split('.');
  return RESERVED.test(stem.trim()) ? `${cut(name, MOST_BYTES - room - 1)}_` : name;
}

/** Gives names to the files of one folder: each once, without regard to case or to how accents are written. */
export class FileNames {
  private readonly given = new Set<string>();

  /** @param ending ".html", or empty for a folder */
  give(title: string, ending = ''): string {
    for (let n = 1; ; n++) {
      const behind = `${n === 1 ? '' : ` (${n})`}${ending}`;
      const name = `${safe(title, sizeOf(behind))}${behind}`;
      const plain = name.normalize('NFKD').replace(/\p{M}/gu, '').toUpperCase().toLowerCase();
      if (this.given.has(plain)) continue;
      this.given.add(plain);
      return name;
    }
  }
}
