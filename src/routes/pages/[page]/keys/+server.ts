import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { writeKey } from '$server/course/answer-keys';

const number = z.string().regex(/^-?\d{1,9}(\.\d{1,6})?$/, 'a number is needed');
const AnswerKey = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('short'), accepted: z.array(z.string().max(500)).min(1).max(50) }),
  z.object({
    kind: z.literal('number'),
    value: number,
    tolerance: z.union([number, z.literal('')]),
    unit: z.string().max(40),
  }),
  z.object({ kind: z.literal('choice'), right: z.array(z.string().max(40)).min(1).max(50) }),
]);
const NewKey = z.object({ part: z.string().min(1).max(40), key: AnswerKey.nullable() });

/** What is expected in each part; apart from the page, so that it never reaches a student. */
export const PUT = allowOnPage(
  'manage the page',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { part, key } = await readJson(request, NewKey);
    return json(await writeKey(app.db, grant, part, key));
  },
);
