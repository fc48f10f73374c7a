import { json, type RequestEvent } from '@sveltejs/kit';
import { allowInClass } from '$server/access/allow';
import { tag, Tagging } from '$server/course/codes';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

/** Sets which codes an assignment of the class carries. */
export const PUT = allowInClass(
  'keep the class',
  async ({ request }: RequestEvent, { app, thing }) => {
    const wish = await readJson(request, Tagging);
    const known =
      'assignment' in wish.on &&
      (await app.db
        .selectFrom('assignment_class')
        .select('assignment_id')
        .where('assignment_id', '=', wish.on.assignment)
        .where('class_id', '=', thing.id)
        .executeTakeFirst());
    if (!known) throw new Refusal(404, 'This assignment is not in the class.');
    await tag(app.db, thing.school_id, wish);
    return json({});
  },
);
