import { z } from 'zod';
import { Refusal } from '../page/refusal';
import { Chosen } from './apply-roster';

const column = z.number().int().min(0).max(500).nullable();
const json = <T extends z.ZodType>(shape: T) =>
  z
    .string()
    .transform((text, context) => {
      try {
        return JSON.parse(text);
      } catch {
        context.addIssue('this is not JSON');
        return z.NEVER;
      }
    })
    .pipe(shape);

const RosterRequest = z.object({
  roster: z.instanceof(File, { message: 'Choose a file first.' }),
  /** Whether the file names everybody. */
  whole: z.stringbool().default(true),
  columns: json(
    z.object({ family: column, given: column, name: column, id: column, email: column }),
  ).optional(),
  officeClass: z.string().max(255).optional(),
  chosen: json(Chosen).default([]),
});

/** The roster file of a request, and how it is to be read. @throws Refusal that says what is wrong */
export async function readRosterRequest(request: Request) {
  const fields = await request.formData().catch(() => new FormData());
  const read = RosterRequest.safeParse(Object.fromEntries(fields));
  if (!read.success)
    throw new Refusal(400, read.error.issues[0]?.message ?? 'The request could not be read.');
  const { roster, ...wish } = read.data;
  return { ...wish, name: roster.name, bytes: Buffer.from(await roster.arrayBuffer()) };
}
