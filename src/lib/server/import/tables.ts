import { stringify } from 'csv-stringify/sync';
import chardet from 'chardet';
import { readSheet, type CellValue } from 'read-excel-file/node';
import writeExcelFile from 'write-excel-file/node';
import { readCsv } from '$core/formats/csv';
import { guarded, withoutGuard } from '$core/formats/formula-guard';
import { readZip } from '../file/zip';
import { Refusal } from '../page/refusal';

/** Bytes of delimited text, in whatever encoding they were written. */
export function decodeText(bytes: Buffer): string {
  const signature = bytes.subarray(0, 2).toString('hex');
  if (signature === 'fffe') return new TextDecoder('utf-16le').decode(bytes);
  if (signature === 'feff') return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    const guess = chardet.detect(bytes.subarray(0, 100_000));
    // What is nearly always meant where a guess is not one that this platform reads.
    const known =
      guess &&
      /^(windows-125\d|ISO-8859-\d+|UTF-16LE|UTF-16BE|Shift_JIS|GB18030|Big5|EUC-(JP|KR)|KOI8-R)$/.test(
        guess,
      );
    return new TextDecoder(known ? guess : 'windows-1252').decode(bytes);
  }
}

/** The rows of a table file, .csv or .xlsx. A formula counts as what it last came to. @throws Refusal */
export async function readTable(name: string, bytes: Buffer): Promise<string[][]> {
  if (/\.xlsx$/i.test(name)) {
    await readZip(bytes, () => false);
    try {
      return await readFirstSheet(bytes);
    } catch (error) {
      if (error instanceof Refusal) throw error;
      throw new Refusal(422, 'This is not an .xlsx table that can be read. Please save it again.');
    }
  }
  const read = readCsv(decodeText(bytes));
  if ('fault' in read) throw new Refusal(422, read.fault);
  const rows: string[][] = [];
  for (const { fields } of read.rows) rows.push(fields.map(withoutGuard));
  return rows;
}

/** Of one sheet, empty ones between them included. */
const MOST_CELLS = 200_000;

const cellText = (cell: CellValue | null): string =>
  cell instanceof Date ? cell.toISOString().slice(0, 10) : cell === null ? '' : String(cell);

/** The first sheet. @throws any error when the file is damaged */
async function readFirstSheet(bytes: Buffer): Promise<string[][]> {
  // Numbers stay as the file has them.
  const rows = await readSheet(bytes, 1, { trim: false, parseNumber: (text: string) => text });
  // Empty cells before a far one count, too: a small file can name the last of all columns and rows.
  if (rows.length * Math.max(0, ...rows.map((row) => row.length)) > MOST_CELLS)
    throw new Refusal(
      413,
      `This table has more than ${MOST_CELLS} cells, counted from its first to its last.`,
    );
  return rows.map((row) => row.map(cellText));
}

/** As RFC 4180 has it, with a byte order signature, which spreadsheets need to see that it is UTF-8. */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  stringify(
    rows.map((row) => row.map(guarded)),
    // A line break of any kind is quoted, not the one between records alone.
    { bom: true, record_delimiter: '\r\n', quoted_match: /[\r\n]/ },
  );

const NUMBER = /^\d{1,9}(\.\d{1,4})?$/;

/**
 * One sheet whose cells that are numbers, with at most four places, are numbers.
 * @param ofNumbers whether "65.50" is one, as in a table of numbers; in a table of words it stays as it was written
 */
export const writeXlsx = (
  title: string,
  rows: readonly (readonly string[])[],
  ofNumbers = false,
): Promise<Buffer> => {
  const isNumber = (cell: string) =>
    NUMBER.test(cell) && (ofNumbers || String(Number(cell)) === cell);
  return writeExcelFile(
    rows.map((row) => row.map((cell) => ({ value: isNumber(cell) ? Number(cell) : cell }))),
    { sheet: title.replace(/[\\/*?:[\]]/g, ' ').slice(0, 31) || 'Table' },
  ).toBuffer();
};
