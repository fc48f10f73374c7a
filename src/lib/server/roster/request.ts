import { z } from 'zod';
import { jsonField, readFields } from '../http/form';
import { Refusal } from '../page/refusal';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { Chosen } from './apply-roster';
import { readOfficeClass } from './known';
import { readFromOffice } from './read-file';

const column = z.number().int().min(0).max(500).nullable();
const RosterRequest = z.object({
  from: z.enum(['file', 'hand', 'office']).default('file'),
  roster: z.instanceof(File).optional(),
  /** Whether the file names everybody. */
  whole: z.stringbool().default(true),
  columns: jsonField(
    z.object({
      family: column,
      given: column,
      name: column,
      id: column,
      email: column,
      signIn: column.default(null),
    }),
  ).optional(),
  officeClass: z.string().max(255).optional(),
  chosen: jsonField(Chosen).default([]),
});

/**
 * The roster that a request brings, or has fetched from the office, and what is asked of it.
 * @throws Refusal that says what is wrong
 */
export async function readRosterRequest(
  request: Request,
  app: Using<'db' | 'office' | 'threads'>,
  { thing }: Grant<'manage the class'>,
) {
  const fields = await readFields(request);
  const read = RosterRequest.safeParse(Object.fromEntries(fields));
  if (!read.success)
    throw new Refusal(400, read.error.issues[0]?.message ?? 'The request could not be read.');
  const { roster: file, from, columns, whole, chosen } = read.data;
  const remembered = await readOfficeClass(app.db, thing.id);
  const way = {
    columns,
    byHand: from === 'hand',
    officeClass: read.data.officeClass ?? remembered,
  };
  const spec = { whole, chosen, remembered };
  if (from === 'office') {
    if (!app.office) throw new Refusal(404, 'This school has no office system connected.');
    const roster = await readFromOffice(app.office, way.officeClass);
    return { ...spec, roster, source: 'the office', fromOffice: true };
  }
  if (!file) throw new Refusal(400, 'Choose a file first.');
  const bytes = new Uint8Array(await file.arrayBuffer());
  const roster = await app.threads.run({ kind: 'roster', bytes, way });
  return { ...spec, roster, source: file.name, fromOffice: false };
}
