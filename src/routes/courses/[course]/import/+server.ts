import { jsonField, readFields } from '$server/http/form';
import { json, type RequestEvent } from '@sveltejs/kit';
import { Node } from 'prosemirror-model';
import { z } from 'zod';
import { schema } from '$core/page/schema';
import { allowInCourse } from '$server/access/allow';
import { beginPage } from '$server/course/begin-page';
import { checkUnit } from '$server/course/units';
import { keepPicture } from '$server/file/files';
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
  async ({ request }: RequestEvent, { app, person, thing }) => {
    const fields = await readFields(request);
    const read = Import.safeParse(Object.fromEntries(fields));
    if (!read.success)
      throw new Refusal(400, read.error.issues[0]?.message ?? 'The document could not be read.');
    const { document, unit, kind, pictures } = read.data;
    await checkUnit(app.db, { course: thing.id }, unit || null);
    const imported = await app.reader.read({
      ...{ kind: 'document', name: document.name },
      bytes: new Uint8Array(await document.arrayBuffer()),
      pictures: Object.entries(pictures),
    });
    for (const picture of imported.carried) {
      await app.limits.count('picture', person.id, Math.ceil(picture.length / 1000));
      await keepPicture(app.db, Buffer.from(picture), person);
    }
    const page = await beginPage(
      app.db,
      {
        ...{ school: thing.school_id, at: new Date(), title: imported.title, unit: unit || null },
        in: { kind, course: thing.id },
      },
      Node.fromJSON(schema, imported.page),
    );
    return json({ page, title: imported.title, left: imported.left }, { status: 201 });
  },
);
