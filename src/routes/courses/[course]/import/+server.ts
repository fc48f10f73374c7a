import { jsonField, readFields } from '$server/http/form';
import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowInCourse } from '$server/access/allow';
import { importPage } from '$server/course/import-page';
import { Refusal } from '$server/page/refusal';

const Import = z.object({
  document: z.instanceof(File, { message: 'The document is missing.' }),
  unit: z.union([z.uuid(), z.literal('')]).default(''),
  kind: z.enum(['original', 'reading']).default('original'),
  /** Pictures that were sent before, by their file names. */
  pictures: jsonField(z.record(z.string(), z.string())).default({}),
});

/** Makes a page of one document; answers what stayed behind. */
export const POST = allowInCourse(
  'write the course',
  async ({ request }: RequestEvent, { app, grant }) => {
    const fields = await readFields(request);
    const read = Import.safeParse(Object.fromEntries(fields));
    if (!read.success)
      throw new Refusal(400, read.error.issues[0]?.message ?? 'The document could not be read.');
    const { document, unit, kind, pictures } = read.data;
    const made = await importPage(app, grant, {
      name: document.name,
      bytes: new Uint8Array(await document.arrayBuffer()),
      pictures: Object.entries(pictures),
      unit: unit || null,
      kind,
    });
    return json(made, { status: 201 });
  },
);
