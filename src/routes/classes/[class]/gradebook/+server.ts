import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { GradeRules } from '$core/grades/rules';
import { allowInClass } from '$server/access/allow';
import { saveRules } from '$server/grades/gradebook';
import { readJson } from '$server/http/body';

const Change = z.object({ rules: GradeRules, version: z.number().int() });

/** Changes how the class counts. */
export const PUT = allowInClass(
  'manage the class',
  async ({ request }: RequestEvent, { app, grant }) => {
    await saveRules(app, grant, await readJson(request, Change));
    return json({});
  },
);
