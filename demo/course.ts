import { readFileSync } from 'node:fs';
import { Node } from 'prosemirror-model';
import { grantInCourse, grantOnPage } from '../src/lib/server/access/in-the-name-of';
import type { App } from '../src/lib/server/app';
import { beginPage } from '../src/lib/server/course/begin-page';
import { readCodes, saveCodes } from '../src/lib/server/course/code-lists';
import { tag } from '../src/lib/server/course/code-tags';
import { writeNote } from '../src/lib/server/course/notes';
import type { Scoring } from '../src/lib/core/marking/scoring';
import { picturesIn, placePictures, savePicture } from '../src/lib/server/file/files';
import { beginRubric } from '../src/lib/server/course/rubrics';
import { addUnit } from '../src/lib/server/course/units';
import { writeKey } from '../src/lib/server/course/answer-keys';
import { ORIGINALS, SKETCH_ADAPTED, type DemoOriginal } from './originals';
import { READINGS } from './readings';
import { RUBRICS } from './rubrics';

export const UNITS = ['The tide', 'Lights', 'Shore', 'Storm'] as const;

const UNIT_OF: Record<DemoOriginal['key'], (typeof UNITS)[number]> = {
  symbols: 'The tide',
  twelfths: 'The tide',
  tides: 'The tide',
  light: 'Lights',
  night: 'Lights',
  sketch: 'Lights',
  profile: 'Shore',
  pilot: 'Shore',
  master: 'Lights',
};

/** The curriculum of Skerry Point School, as far as it goes here. */
const CODES = [
  { code: 'CO', statement: 'The coast', parent: null },
  { code: 'CO.1', statement: 'Explains why the sea rises and falls', parent: 0 },
  { code: 'CO.2', statement: 'Works out the height of the tide at an hour', parent: 0 },
  { code: 'CO.3', statement: 'Tells how a beach changes with the seasons', parent: 0 },
  { code: 'MA', statement: 'Maps and charts', parent: null },
  { code: 'MA.1', statement: 'Reads the signs of a chart', parent: 4 },
  { code: 'MA.2', statement: 'Draws a place so that others find their way in it', parent: 4 },
  { code: 'MA.3', statement: 'Names a light by its character', parent: 4 },
];
const TAGS = [
  ['CO.2', 'twelfths'],
  ['MA.1', 'symbols'],
  ['MA.3', 'light'],
] as const;

/** The ids of the course's originals. */
export interface Originals {
  of: (key: DemoOriginal['key']) => string;
  sketchAdapted: string;
  rubricOf: (key: DemoOriginal['key']) => Scoring['rubric'] | null;
}

/** The course Coast & Chart, with its units, originals, readings, rubrics and notes. */
export async function fillCourse(
  app: App,
  spec: { school: number; course: string; teacher: string; at: Date },
): Promise<Originals> {
  const { school, course, teacher, at } = spec;
  const grant = await grantInCourse(app.db, 'write the course', teacher, course);
  const units = new Map<string, string>();
  for (const title of UNITS) units.set(title, await addUnit(app.db, grant, title));
  const originals = new Map<string, string>();
  const harbour = readFileSync(new URL('./pictures/harbour.png', import.meta.url));
  await savePicture(app.db, harbour, { id: teacher, school_id: school });
  const begin = (kind: 'original' | 'reading', title: string, unit: string, page: Node) =>
    beginPage(app.db, grant, { kind, at, title, unit: units.get(unit) ?? null }, page);
  for (const { title, unit, page } of READINGS) await begin('reading', title, unit, page);
  for (const { key, title, page, keys } of ORIGINALS) {
    const id = await begin('original', title, UNIT_OF[key], page);
    originals.set(key, id);
    const keep = await grantOnPage(app, 'manage the page', teacher, id);
    await placePictures(app, keep.person, id, picturesIn(page.toJSON()));
    for (const [part, body] of Object.entries(keys)) await writeKey(app.db, keep, part, body);
  }
  await saveCodes(app.db, grant, { title: 'Geography, years 7 to 9', codes: CODES, passed: [] });
  const codes = await readCodes(app.db, school);
  for (const [code, key] of TAGS) {
    const known = codes.filter((one) => one.code === code).map(({ id }) => id);
    await tag(app.db, grant, { on: { page: originals.get(key) ?? '' }, codes: known });
  }
  const rubrics = new Map<string, Scoring['rubric']>();
  for (const [key, { title, table }] of Object.entries(RUBRICS)) {
    const unit = units.get('Lights') ?? null;
    const id = await beginRubric(app.db, grant, { unit, title }, table);
    rubrics.set(key, { id, title, version: 0, table });
  }
  const note = (about: 'page' | 'unit', id: string | undefined, text: string) =>
    writeNote(app.db, grant, { about, id: id ?? '', text });
  await note('page', originals.get('twelfths'), 'Make the second table shorter next time.');
  await note(
    'page',
    originals.get('sketch'),
    'Ask the harbour master for the new depths before this goes out.',
  );
  await note('unit', units.get('Storm'), 'Three lessons were too few. Take a fourth for the log.');
  const sketchAdapted = await begin(
    'original',
    'Harbour sketch, adapted',
    'Lights',
    SKETCH_ADAPTED,
  );
  await app.db
    .updateTable('page')
    .set({ adapted: true, from_id: originals.get('sketch') ?? null, from_version: 0 })
    .where('id', '=', sketchAdapted)
    .execute();
  return {
    of: (key) => originals.get(key) ?? '',
    sketchAdapted,
    rubricOf: (key) => rubrics.get(key) ?? null,
  };
}
