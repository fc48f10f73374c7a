import type { CsvRow } from '../formats/csv';
import { guessColumns, type Columns } from './columns';

/** A student as a roster names them. */
export interface Entry {
  /** Of the file, from 1; null for what came from no file. */
  line: number | null;
  given: string;
  family: string;
  email: string;
  /** By which the office knows them; empty for unknown. */
  officeId: string;
  /** The name they sign in by, in lower case, where the roster says one. */
  signIn?: string;
  /** Whether they may sign in, where the roster says so. */
  enabled?: boolean;
}

export interface BadLine {
  line: number | null;
  says: string;
}

export interface RosterRead {
  header: string[];
  columns: Columns;
  entries: Entry[];
  bad: BadLine[];
}

/** Of one class; more is a file of something else. */
const MOST_STUDENTS = 500;
const MOST_CHARACTERS = 100;

/** "Ekholm, Viggo" or "Viggo Ekholm"; the last word is the family name where no comma says more. */
function splitName(name: string): { given: string; family: string } {
  const [family = '', given = ''] = name.split(/,(.*)/s).map((part) => part.trim());
  if (given) return { given, family };
  const words = name.split(/\s+/).filter(Boolean);
  return { given: words.slice(0, -1).join(' '), family: words.at(-1) ?? '' };
}

/** A name that a spreadsheet would run as a formula is no name. */
const isFormula = (text: string) => /^[=@]|^[+-]\d/.test(text);
const CONTROL = /\p{Cc}/u;

/**
 * Reads the rows of a roster file.
 * @param given which column holds what, where a person corrected the guess
 * @returns what it names, with every line that cannot be read, or one sentence when nothing can
 */
export function readRoster(
  rows: readonly CsvRow[],
  given?: Columns,
): RosterRead | { fault: string } {
  const [first, ...rest] = rows;
  if (!first) return { fault: 'The file is empty. Please choose the one with the students.' };
  const columns = given ?? guessColumns(first.fields);
  if (!columns)
    return {
      fault: `The first line names no column for a name: “${first.fields.join(', ').slice(0, 120)}”. It needs “Name”, or “Given name” and “Family name”, in a language of your school.`,
    };
  if (rest.length > MOST_STUDENTS)
    return {
      fault: `The file has ${rest.length.toLocaleString('en')} lines, and a class has at most ${MOST_STUDENTS} students. Is it the file of this class?`,
    };
  const entries: Entry[] = [];
  const bad: BadLine[] = [];
  for (const { line, fields } of rest) {
    const says = faultOf(fields, first.fields.length);
    const entry = readEntry(line, fields, columns);
    const nameFault = says ?? faultOfName(entry);
    if (nameFault) bad.push({ line, says: nameFault });
    else entries.push(entry);
  }
  if (entries.length === 0)
    return { fault: 'No line of the file could be read as a student. Please look at its columns.' };
  return { header: first.fields, columns, entries, bad };
}

function readEntry(line: number, fields: readonly string[], columns: Columns): Entry {
  const field = (name: keyof Columns) => {
    const index = columns[name];
    return index === null ? '' : (fields[index] ?? '').replace(/\s+/g, ' ').trim();
  };
  const parts = { given: field('given'), family: field('family') };
  const alone = parts.given && parts.family ? null : parts.given || parts.family;
  // Where one column is empty, a comma in the other says that a whole name stands there.
  const whole = alone?.includes(',') ? alone : alone === '' ? field('name') : null;
  const named = whole === null ? parts : splitName(whole);
  return {
    line,
    ...named,
    email: field('email').toLowerCase(),
    officeId: field('id'),
    signIn: field('signIn').toLowerCase(),
  };
}

function faultOf(fields: readonly string[], width: number): string | null {
  if (fields.length > width)
    return `it has ${fields.length} fields where the first line has ${width}`;
  return null;
}

function faultOfName({ given, family, email, officeId, signIn = '' }: Entry): string | null {
  if (!given && !family) return 'it names nobody';
  if (!given) return `“${family}” has no given name`;
  if (!family) return `“${given}” has no family name`;
  for (const text of [given, family]) {
    if (text.length > MOST_CHARACTERS) return 'a name is longer than 100 characters';
    if (isFormula(text)) return `“${text.slice(0, 30)}” is a formula, not a name`;
    if (CONTROL.test(text) || !/\p{L}/u.test(text)) return `“${text.slice(0, 30)}” is not a name`;
  }
  if (officeId.length > 255) return 'its number is longer than 255 characters';
  if (signIn.length > MOST_CHARACTERS) return 'a sign-in name is longer than 100 characters';
  if (email && !/^[^\s@]{1,64}@[^\s@]{1,190}$/.test(email))
    return `“${email.slice(0, 60)}” is not an e-mail address`;
  return null;
}
