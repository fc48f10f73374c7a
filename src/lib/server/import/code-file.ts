import { codesFromCase, codesFromCsv, type CodeList } from '$core/formats/code-list';
import { Refusal } from '../page/refusal';
import { decodeText } from './tables';

/** A list of curriculum codes, as CASE JSON or as delimited text. @throws Refusal when it is neither */
export function readCodeFile(name: string, bytes: Buffer): CodeList {
  const text = decodeText(bytes);
  const title = name.replace(/\.[a-z]+$/i, '');
  const read = /^\s*\{/.test(text) ? codesFromCase(text) : codesFromCsv(title, text);
  if ('fault' in read) throw new Refusal(422, read.fault);
  return { ...read, title: read.title || title };
}
