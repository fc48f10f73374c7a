import { LANGUAGE } from '../language';

/** Names as a sentence has them: "8A, 8B and 8C", or with "or". */
export const listed = (names: readonly string[], word: 'and' | 'or' = 'and'): string =>
  new Intl.ListFormat(LANGUAGE, { type: word === 'and' ? 'conjunction' : 'disjunction' }).format(
    names,
  );
