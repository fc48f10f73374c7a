import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { RubricTable } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { writeRubric } from '$server/course/rubrics';
import { readJson } from '$server/http/body';

const Change = z.object({
  title: z.string().trim().min(1, 'The rubric needs a title.').max(300),
  table: RubricTable,
});

/** Keeps a rubric as it was written by hand. */
export const PUT = allowInCourse(
  'write the course',
  async ({ request, params }: RequestEvent, { app, thing }) => {
    await writeRubric(app.db, thing.id, params.rubric ?? '', await readJson(request, Change));
    return json({});
  },
);
