import { z } from 'zod';
import { Refusal } from '../page/refusal';
import { checkText } from './text';

/** Of a JSON body, in bytes. */
const MOST_BYTES = 4_000_000;

const tooLarge = () =>
  new Refusal(
    413,
    'This is too much at once. Your words stay here; please add it in smaller pieces.',
  );

/** The JSON body of a request in the shape that is expected. @throws Refusal that names what is wrong */
export async function readJson<T extends z.core.$ZodType>(
  request: Request,
  shape: T,
): Promise<z.infer<T>> {
  if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES) throw tooLarge();
  const text = await request.text();
  if (text.length > MOST_BYTES) throw tooLarge();
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new Refusal(400, 'The request could not be read: it is not JSON.');
  }
  checkText(body);
  const read = z.safeParse(shape, body);
  if (read.success) return read.data;
  // A shape that says its faults in sentences says them to people; Zod's own have no full stop.
  const sentences = read.error.issues
    .map(({ message }) => message)
    .filter((one) => one.endsWith('.'));
  if (sentences.length > 0) throw new Refusal(400, [...new Set(sentences)].slice(0, 5).join(' '));
  const faults = read.error.issues.map(
    (issue) => `${issue.path.join('.') || 'body'}: ${issue.message}`,
  );
  throw new Refusal(400, `The request could not be read. ${faults.slice(0, 5).join('. ')}.`);
}
