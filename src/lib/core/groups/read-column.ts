import { plainWord } from '../text/plain-word';

/** A student as a pasted column may name them. */
interface Named {
  id: string;
  given: string;
  family: string;
}

/**
 * Reads a pasted column, on each line a name and a value, with a tab, a semicolon or a comma between.
 * @returns the value of each student it names, by id: numbers where all of them are numbers, else words
 */
export function readColumn(
  text: string,
  students: readonly Named[],
): Record<string, number | string> {
  const ids = new Map(
    students.flatMap(({ id, given, family }): [string, string][] => [
      [plainWord(`${given} ${family}`), id],
      [plainWord(`${family} ${given}`), id],
    ]),
  );
  const values = text.split('\n').flatMap((line): [string, string][] => {
    // Where only commas divide, a name may hold one itself: the value stands behind the last.
    const divider = /[\t;]/.test(line) ? /[\t;]/ : /,(?=[^,]*$)/;
    const [who = '', value = ''] = line.split(divider).map((part) => part.trim());
    const id = ids.get(plainWord(who));
    return id && value ? [[id, value]] : [];
  });
  const asNumber = (value: string) => Number(value.replace(',', '.'));
  const numeric = values.every(([, value]) => Number.isFinite(asNumber(value)));
  return Object.fromEntries(values.map(([id, value]) => [id, numeric ? asNumber(value) : value]));
}
