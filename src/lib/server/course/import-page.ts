import { Node } from 'prosemirror-model';
import { schema } from '$core/page/schema';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { savePicture, picturesIn, placePictures } from '../file/files';
import { beginPage } from './begin-page';
import { checkUnit } from './units';

interface Document {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
  /** Pictures that were sent before, each by its file name and its name here. */
  pictures: [string, string][];
  unit: string | null;
  kind: 'original' | 'reading';
}

/** Makes a page of a course of one document. @returns what stayed behind, too @throws Refusal */
export async function importPage(
  app: Using<'db' | 'findPage' | 'limits' | 'threads'>,
  grant: Grant<'write the course'>,
  { name, bytes, pictures, unit, kind }: Document,
) {
  const { person, thing } = grant;
  await checkUnit(app.db, { course: thing.id }, unit);
  const imported = await app.threads.run({ kind: 'document', name, bytes, pictures });
  for (const picture of imported.carried) {
    await app.limits.count('picture', person.id, Math.ceil(picture.length / 1000));
    await savePicture(app.db, Buffer.from(picture), person);
  }
  const page = await beginPage(
    app.db,
    grant,
    { kind, unit, title: imported.title, at: new Date() },
    Node.fromJSON(schema, imported.page),
  );
  await placePictures(app, person, page, picturesIn(imported.page));
  return { page, title: imported.title, left: imported.left };
}
