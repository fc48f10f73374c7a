import { shownAs } from '../attached/shown-as';

/** The longest that is spoken as one comment, in seconds. */
export const LONGEST_SPOKEN = 180;
/** The most that a comment's picture or sound weighs, in bytes. */
export const MOST_SAID = 20_000_000;

/** What goes with the words of a comment. */
export interface SaidFile {
  name: string;
  as: 'picture' | 'sound';
}

/** As what a file goes with a comment; null for one that does not. What browsers record of sound alone may be told a film. @param type a media type */
export function saidAs(type: string | null): SaidFile['as'] | null {
  const shown = shownAs(type);
  if (shown === 'picture') return 'picture';
  return shown === 'sound' || shown === 'film' ? 'sound' : null;
}
