import type { z } from 'zod';
import {
  RECORD_FILES,
  type AssignmentRecord,
  type CalendarRecord,
  type ClassRecord,
  type PageRecord,
  type PersonRecord,
  type RecordFile,
  type RubricRecord,
} from '$core/archive/record';
import { RubricTable } from '$core/marking/rubric';
import { checkText } from '../http/text';
import { Refusal } from '../page/refusal';
import type { BagReader } from './bag-reader';

/** Files that came to the record after archives had been made. */
const LATER: readonly RecordFile[] = [
  'attached.ndjson',
  'proposals.ndjson',
  'said-files.ndjson',
  'scorings-apart.ndjson',
  'student-scorings.ndjson',
];
/** Things that are taken in at once. */
const AT_ONCE = 500;
/** Pages that one archive holds at most. */
const MOST_PAGES = 100_000;

export const brokenRecord = (file: string, what: string) =>
  new Refusal(422, `In “record/${file}” ${what} Nothing was taken from this archive.`);

export type Thing<F extends RecordFile> = z.infer<(typeof RECORD_FILES)[F]['type']>;

/** One thing of a file, in its shape. @throws Refusal that says which is not */
function shaped<F extends RecordFile>(file: F, value: unknown, which: string): Thing<F> {
  checkText(value);
  const read = RECORD_FILES[file].type.safeParse(value);
  if (read.success) return read.data as Thing<F>;
  const [issue] = read.error.issues;
  throw brokenRecord(
    file,
    `${which} is not as it should be: ${issue?.path.join('.')} ${issue?.message}.`,
  );
}

function parsed(file: string, text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw brokenRecord(file, 'something is not JSON.');
  }
}

async function readOne<F extends 'class.json' | 'calendar.json'>(bag: BagReader, file: F) {
  return shaped(file, parsed(file, await bag.text(`data/record/${file}`)), 'it');
}

async function readList<F extends 'people.json' | 'rubrics.json' | 'assignments.json'>(
  bag: BagReader,
  file: F,
): Promise<Thing<F>[]> {
  const list = parsed(file, await bag.text(`data/record/${file}`));
  if (!Array.isArray(list)) throw brokenRecord(file, 'there is no list.');
  return list.map((one, index) => shaped(file, one, `number ${index + 1}`));
}

async function* readLines<F extends RecordFile>(bag: BagReader, file: F): AsyncGenerator<Thing<F>> {
  let line = 0;
  for await (const text of bag.lines(`data/record/${file}`))
    yield shaped(file, parsed(file, text), `line ${++line}`);
}

/** What stands in an archive besides what was written: held at once. */
export interface ArchivedClass {
  klass: z.infer<typeof ClassRecord>;
  calendar: z.infer<typeof CalendarRecord>;
  people: z.infer<typeof PersonRecord>[];
  rubrics: z.infer<typeof RubricRecord>[];
  assignments: z.infer<typeof AssignmentRecord>[];
  pages: z.infer<typeof PageRecord>[];
}

/** @throws Refusal */
export async function readArchivedClass(bag: BagReader): Promise<ArchivedClass> {
  if (!bag.has('data/record/class.json'))
    throw new Refusal(
      422,
      'This is a BagIt bag, and none that Uncia made: it has no record to be opened again.',
    );
  const pages: z.infer<typeof PageRecord>[] = [];
  for await (const page of readLines(bag, 'pages.ndjson')) {
    if (pages.push(page) > MOST_PAGES)
      throw brokenRecord('pages.ndjson', 'there are too many pages.');
  }
  const rubrics = await readList(bag, 'rubrics.json');
  for (const { body, title } of rubrics)
    if (!RubricTable.safeParse(body).success)
      throw brokenRecord('rubrics.json', `“${title}” is not a rubric.`);
  return {
    klass: await readOne(bag, 'class.json'),
    calendar: await readOne(bag, 'calendar.json'),
    people: await readList(bag, 'people.json'),
    rubrics,
    assignments: await readList(bag, 'assignments.json'),
    pages,
  };
}

/** The things of a file, some at once, each of its shape; none of a file that an older archive does not have. */
export async function eachOf<F extends RecordFile>(
  bag: BagReader,
  file: F,
  take: (batch: Thing<F>[]) => Promise<unknown>,
): Promise<void> {
  if (!bag.has(`data/record/${file}`) && LATER.includes(file)) return;
  let batch: Thing<F>[] = [];
  for await (const one of readLines(bag, file)) {
    if (batch.push(one) < AT_ONCE) continue;
    await take(batch);
    batch = [];
  }
  if (batch.length > 0) await take(batch);
}
