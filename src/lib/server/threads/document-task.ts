import { namePicture } from '../file/picture-name';
import { readDocument } from '../import/read-document';
import type { Answers, DocumentTask } from './tasks';

/** Reads a document as a page in a thread, with the pictures that it carries. @throws Refusal when it cannot be read */
export async function documentTask({
  name,
  bytes,
  pictures,
}: DocumentTask): Promise<Answers['document']> {
  const carried: Uint8Array[] = [];
  const save = async (picture: Buffer) => {
    const named = await namePicture(picture);
    carried.push(picture);
    return named.name;
  };
  const document = { name, bytes: Buffer.from(bytes) };
  const { page, ...read } = await readDocument(document, new Map(pictures), save);
  return { ...read, page: page.toJSON() as object, carried };
}
