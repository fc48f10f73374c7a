import { fail, type ActionFailure } from '@sveltejs/kit';
import type { z } from 'zod';
import { Refusal } from '../page/refusal';

/** The fields of a form in the shape that is expected. @throws Refusal that says what is wrong */
export async function readForm<T extends z.ZodType>(
  request: Request,
  shape: T,
): Promise<z.infer<T>> {
  const fields = await request.formData().catch(() => {
    throw new Refusal(400, 'The form could not be read. Please send it again.');
  });
  const read = shape.safeParse(Object.fromEntries(fields));
  if (read.success) return read.data;
  throw new Refusal(400, [...new Set(read.error.issues.map((issue) => issue.message))].join(' '));
}

/** A form's action whose refusals are said beside the form, so that nothing filled in is lost. */
export const saying =
  <E, A, R>(action: (event: E, asked: A) => Promise<R>) =>
  async (event: E, asked: A): Promise<R | ActionFailure<{ sentence: string }>> => {
    try {
      return await action(event, asked);
    } catch (thrown) {
      if (thrown instanceof Refusal) return fail(thrown.status, { sentence: thrown.message });
      throw thrown;
    }
  };
