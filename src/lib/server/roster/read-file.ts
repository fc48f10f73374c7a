import { readCsv } from '$core/formats/csv';
import { readOneRoster, type OneRoster } from '$core/formats/oneroster-csv';
import type { Columns } from '$core/roster/columns';
import { readRoster, type BadLine, type Entry } from '$core/roster/read-roster';
import { readZip } from '../file/zip';
import { decodeText } from '../import/tables';
import type { Office } from '../office/office';
import { Refusal } from '../page/refusal';

/** A roster as far as it could be read. Of several classes, the one that was chosen. */
export interface RosterRead {
  entries: Entry[];
  bad: BadLine[];
  /** Of delimited text: its first line, and what its columns were taken to hold. */
  header: string[] | null;
  columns: Columns | null;
  /** Of a OneRoster package, or of the office: its classes, and which was read. */
  officeClasses: OneRoster['classes'] | null;
  officeClass: string | null;
}

/** The columns as a person corrected them; the class of several that they chose, or that is remembered. */
export interface RosterWay {
  columns?: Columns;
  officeClass: string | null;
  /** Whether it is names alone, one on a line, with no first line that says so. */
  byHand?: boolean;
}

/** Bytes of a roster file. */
const MOST_BYTES = 10_000_000;

const isZip = (bytes: Buffer) => bytes.subarray(0, 2).toString('latin1') === 'PK';

/**
 * Reads a roster: delimited text of any usual shape, or a OneRoster CSV package.
 * @throws Refusal when nothing of it can be read
 */
export async function readRosterFile(bytes: Buffer, spec: RosterWay): Promise<RosterRead> {
  if (bytes.length > MOST_BYTES)
    throw new Refusal(413, 'This file is larger than 10 MB. Is it the roster?');
  if (isZip(bytes)) return readPackage(bytes, spec.officeClass);
  if (bytes.includes(0) && !/^(fffe|feff)/.test(bytes.subarray(0, 2).toString('hex')))
    throw new Refusal(422, 'This is not a file of text. Save the roster as CSV, and choose that.');
  const csv = readCsv(decodeText(bytes));
  if ('fault' in csv) throw new Refusal(422, csv.fault);
  const rows = spec.byHand ? [{ line: 0, fields: ['name'] }, ...csv.rows] : csv.rows;
  const read = readRoster(rows, spec.columns);
  if ('fault' in read) throw new Refusal(422, read.fault);
  return { ...read, officeClasses: null, officeClass: null };
}

async function readPackage(bytes: Buffer, officeClass: string | null): Promise<RosterRead> {
  const entries = await readZip(bytes, (name) => name.toLowerCase().endsWith('.csv'));
  const files = new Map<string, string>();
  for (const [path, contents] of entries)
    files.set(path.split('/').at(-1)?.toLowerCase() ?? '', decodeText(contents));
  const read = readOneRoster(files);
  if ('fault' in read) throw new Refusal(422, read.fault);
  const chosen = chooseClass(read.classes, officeClass);
  return {
    entries: (chosen ? read.students.get(chosen) : null) ?? [],
    bad: read.bad.map(({ file, line, says }) => ({ line, says: `of ${file}: ${says}` })),
    header: null,
    columns: null,
    officeClasses: read.classes,
    officeClass: chosen,
  };
}

/** The wanted class where there is one of that number, or the only one there is. */
function chooseClass(classes: OneRoster['classes'], wanted: string | null): string | null {
  if (classes.some(({ sourcedId }) => sourcedId === wanted)) return wanted;
  return classes.length === 1 ? (classes[0]?.sourcedId ?? null) : null;
}

/** Asks the office for its classes, and for the students of the one that is wanted. @throws Refusal */
export async function readFromOffice(office: Office, wanted: string | null): Promise<RosterRead> {
  const officeClasses = await office.classes();
  const officeClass = chooseClass(officeClasses, wanted);
  const entries = officeClass ? await office.students(officeClass) : [];
  return { entries, bad: [], header: null, columns: null, officeClasses, officeClass };
}
