import { readCsv } from '$core/formats/csv';
import { readOneRoster, type OneRoster } from '$core/formats/oneroster-csv';
import type { Columns } from '$core/roster/columns';
import { readRoster, type BadLine, type Entry } from '$core/roster/read-roster';
import { readZip } from '../file/zip';
import { decodeText } from '../import/tables';
import { Refusal } from '../page/refusal';

/** A roster file as far as it could be read. Of a package of several classes, the one that was chosen. */
export interface RosterFile {
  entries: Entry[];
  bad: BadLine[];
  /** Of delimited text: its first line, and what its columns were taken to hold. */
  header: string[] | null;
  columns: Columns | null;
  /** Of a OneRoster package: its classes, and which was read. */
  officeClasses: OneRoster['classes'] | null;
  officeClass: string | null;
}

/** Bytes of a roster file. */
const MOST_BYTES = 10_000_000;

const isZip = (bytes: Buffer) => bytes.subarray(0, 2).toString('latin1') === 'PK';

/**
 * Reads a roster: delimited text of any usual shape, or a OneRoster CSV package.
 * @param wish the columns as a person corrected them; the class of a package that she chose, or that is remembered
 * @throws Refusal when nothing of it can be read
 */
export async function readRosterFile(
  bytes: Buffer,
  wish: { columns?: Columns; officeClass: string | null },
): Promise<RosterFile> {
  if (bytes.length > MOST_BYTES)
    throw new Refusal(413, 'This file is larger than 10 MB. Is it the roster?');
  if (isZip(bytes)) return readPackage(bytes, wish.officeClass);
  if (bytes.includes(0) && !/^(fffe|feff)/.test(bytes.subarray(0, 2).toString('hex')))
    throw new Refusal(422, 'This is not a file of text. Save the roster as CSV, and choose that.');
  const csv = readCsv(decodeText(bytes));
  if ('fault' in csv) throw new Refusal(422, csv.fault);
  const read = readRoster(csv.rows, wish.columns);
  if ('fault' in read) throw new Refusal(422, read.fault);
  return { ...read, officeClasses: null, officeClass: null };
}

async function readPackage(bytes: Buffer, officeClass: string | null): Promise<RosterFile> {
  const entries = await readZip(bytes, (name) => name.toLowerCase().endsWith('.csv'));
  const files = new Map<string, string>();
  for (const [path, contents] of entries)
    files.set(path.split('/').at(-1)?.toLowerCase() ?? '', decodeText(contents));
  const read = readOneRoster(files);
  if ('fault' in read) throw new Refusal(422, read.fault);
  const known = read.classes.some(({ sourcedId }) => sourcedId === officeClass);
  const only = read.classes.length === 1 ? (read.classes[0]?.sourcedId ?? null) : null;
  const chosen = known ? officeClass : only;
  return {
    entries: (chosen ? read.students.get(chosen) : null) ?? [],
    bad: read.bad.map(({ file, line, says }) => ({ line, says: `of ${file}: ${says}` })),
    ...{ header: null, columns: null, officeClasses: read.classes, officeClass: chosen },
  };
}
