import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { AnswerKey } from '$core/marking/answer-key';
import { allowOnPage } from '$server/access/allow';
import { readJson } from '$server/http/body';
import { writeKey } from '$server/course/answer-keys';

const NewKey = z.object({ part: z.string().min(1).max(40), key: AnswerKey.nullable() });

/** What is expected in each part; apart from the page, so that it never reaches a student. */
export const PUT = allowOnPage(
  'manage the page',
  async ({ request }: RequestEvent, { app, grant }) => {
    const { part, key } = await readJson(request, NewKey);
    return json(await writeKey(app.db, grant, part, key));
  },
);
