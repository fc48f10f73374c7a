import { fail, type ActionFailure } from '@sveltejs/kit';
import { z } from 'zod';
import { Refusal, refusalIn, type RefusalDetails } from '../page/refusal';
import { checkText } from './text';

/** A field that holds JSON of a shape. */
export const jsonField = <T extends z.ZodType>(shape: T) =>
  z
    .string()
    .transform((text, context) => {
      try {
        const value: unknown = JSON.parse(text);
        checkText(value);
        return value;
      } catch (error) {
        context.addIssue(
          error instanceof Refusal ? error.message : 'A part of the form is not JSON.',
        );
        return z.NEVER;
      }
    })
    .pipe(shape);

/** The fields of a form as they were sent. @throws Refusal when they cannot be read or kept */
export async function readFields(request: Request): Promise<FormData> {
  const fields = await request.formData().catch(() => {
    throw new Refusal(400, 'The form could not be read. Please send it again.');
  });
  for (const [name, value] of fields) checkText([name, value instanceof File ? value.name : value]);
  return fields;
}

/** The fields of a form in the shape that is expected. @throws Refusal that says what is wrong */
export async function readForm<T extends z.ZodType>(
  request: Request,
  shape: T,
): Promise<z.infer<T>> {
  return readShape(Object.fromEntries(await readFields(request)), shape);
}

/** What fields say, in the shape that is expected. @throws Refusal that says what is wrong */
export function readShape<T extends z.ZodType>(fields: object, shape: T): z.infer<T> {
  const read = shape.safeParse(fields);
  if (read.success) return read.data;
  throw new Refusal(400, [...new Set(read.error.issues.map((issue) => issue.message))].join(' '));
}

/** What a refused form gets back: the sentence, and what the view shows beside it. */
interface Refused extends RefusalDetails {
  sentence: string;
}

/** The one way to answer a form: a refusal is said beside it with its status, so that nothing filled in is lost. */
export const formAction =
  <E, A, R>(action: (event: E, asked: A) => Promise<R>) =>
  async (event: E, asked: A): Promise<R | ActionFailure<Refused>> => {
    try {
      return await action(event, asked);
    } catch (thrown) {
      const refusal = refusalIn(thrown);
      if (refusal) return fail(refusal.status, { sentence: refusal.message, ...refusal.more });
      throw thrown;
    }
  };
