import { counted } from '../lists/counted';

/** How something attached is shown here; `nothing` can be downloaded alone. */
export type ShownAs = 'picture' | 'pdf' | 'sound' | 'film' | 'nothing';

const PICTURES = ['image/png', 'image/jpeg', 'image/gif', 'image/webp'];
/** What browsers play. */
const SOUNDS = [
  'audio/mpeg',
  'audio/ogg',
  'audio/opus',
  'audio/wav',
  'audio/x-m4a',
  'audio/mp4',
  'audio/flac',
];
const FILMS = ['video/mp4', 'video/webm', 'video/ogg', 'video/quicktime'];

/** @param type a media type, told from the bytes */
export function shownAs(type: string | null): ShownAs {
  if (type === null) return 'nothing';
  const plain = type.split(';')[0] ?? '';
  if (PICTURES.includes(plain)) return 'picture';
  if (plain === 'application/pdf') return 'pdf';
  if (SOUNDS.includes(plain)) return 'sound';
  if (FILMS.includes(plain)) return 'film';
  return 'nothing';
}

/** As what a document is read to be shown as a page: by the ending that such a file has; null for what is none. */
export function documentKind(
  type: string | null,
  name: string,
): 'docx' | 'odt' | 'md' | 'html' | null {
  switch (type?.split(';')[0]) {
    case 'application/vnd.openxmlformats-officedocument.wordprocessingml.document':
      return 'docx';
    case 'application/vnd.oasis.opendocument.text':
      return 'odt';
    case 'text/markdown':
    case 'text/plain':
      return /\.html?$/i.test(name) ? 'html' : 'md';
    case 'text/html':
      return 'html';
    default:
      return null;
  }
}

/** A size in words: "340 KB", "2.4 MB". @param bytes */
export function saySize(bytes: number): string {
  if (bytes < 1000) return counted(bytes, 'byte');
  if (bytes < 1_000_000) return `${Math.round(bytes / 1000)} KB`;
  const megabytes = bytes / 1_000_000;
  return `${megabytes < 10 ? megabytes.toFixed(1) : Math.round(megabytes)} MB`;
}
