import { CsvError, parse } from 'csv-parse/sync';

/** Signs that stand between the fields of files that people call CSV. */
const DELIMITERS = [',', ';', '\t', '|'] as const;

export interface CsvRow {
  /** The line of the file on which it begins, from 1. */
  line: number;
  fields: string[];
}

export type CsvRead = { rows: CsvRow[]; delimiter: string } | { fault: string };

/** The delimiter that divides the first lines into the most fields, alike on each line. */
function guessDelimiter(text: string): string {
  const outside = text.slice(0, 20_000).replace(/"(?:[^"]|"")*"/g, '""');
  const lines = outside
    .split(/\r\n?|\n/)
    .filter((line) => line.trim() !== '')
    .slice(0, 20);
  const score = (delimiter: string) => {
    const counts = lines.map((line) => line.split(delimiter).length - 1);
    const first = counts[0] ?? 0;
    return first === 0 ? 0 : counts.filter((n) => n === first).length * 100 + first;
  };
  return DELIMITERS.reduce((best, one) => (score(one) > score(best) ? one : best));
}

/**
 * Reads a file of delimited text as RFC 4180 has it, whatever delimiter, line ends or byte order mark it was written with.
 * Empty lines are passed over; rows may have any width.
 * @returns the rows, or one sentence that says where the file breaks
 */
export function readCsv(text: string): CsvRead {
  const delimiter = guessDelimiter(text);
  try {
    const ends: number[] = [];
    const records = parse(text, {
      delimiter,
      bom: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      record_delimiter: ['\r\n', '\n', '\r'],
      on_record: (record, { lines }) => {
        ends.push(lines);
        return record;
      },
    });
    let last = 0;
    // Within quotes the parser counts a line break of two characters as two lines.
    let twice = 0;
    const rows = records.map((fields, index): CsvRow => {
      // The parser says on which line a row ends; quoted line breaks may have begun it earlier.
      const text = fields.join('');
      twice += text.match(/\r\n/g)?.length ?? 0;
      const end = (ends[index] ?? last + 1) - twice;
      const breaks = text.match(/\r\n?|\n/g)?.length ?? 0;
      const line = Math.max(last + 1, end - breaks);
      last = end;
      return { line, fields };
    });
    return { rows: rows.filter(({ fields }) => fields.some((field) => field !== '')), delimiter };
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    const line = 'lines' in error ? Number(error.lines) : null;
    const quotes = error.code.includes('QUOTE');
    return {
      fault: `${line ? `Near line ${line} t` : 'T'}he file breaks${quotes ? ': a quotation mark is opened and not closed, or stands in the middle of a field' : ''}. Please mend it there and choose it again.`,
    };
  }
}
