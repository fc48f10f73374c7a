import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { RubricTable } from '$core/marking/rubric';
import { allowInCourse } from '$server/access/allow';
import { writeRubric } from '$server/course/rubrics';
import { readJson } from '$server/http/body';

const Change = z.object({
  title: z.string().trim().min(1, 'The rubric needs a title.').max(300),
  table: RubricTable,
  /** The one that it was made on. */
  version: z.number().int().min(0),
});

/** Saves a rubric as it was written by hand; answers 409 with theirs when somebody saved it meanwhile. */
export const PUT = allowInCourse(
  'write the course',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const change = await readJson(request, Change);
    const saved = await writeRubric(app.db, grant, params.rubric ?? '', change);
    if (!('theirs' in saved)) return json(saved);
    const { title, table, version, called, given } = saved.theirs;
    return json(
      {
        message: 'Somebody saved this rubric meanwhile.',
        theirs: { title, table, version, by: called || given || 'Somebody' },
      },
      { status: 409 },
    );
  },
);
