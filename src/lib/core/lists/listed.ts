import { LANGUAGE } from '../language';

/** Names as a sentence has them: "8A, 8B and 8C". */
export const listed = (names: readonly string[]): string =>
  new Intl.ListFormat(LANGUAGE, { type: 'conjunction' }).format(names);
