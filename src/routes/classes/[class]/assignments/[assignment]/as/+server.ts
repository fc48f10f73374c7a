import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { whatTheyHave } from '$server/handout/view-assignment';

/** What a student of the class really has of an assignment. */
export const GET = allowOnAssignment(
  'see the assignment',
  async ({ url }: RequestEvent, { app, grant }) =>
    json(await whatTheyHave(app, grant, url.searchParams.get('student') ?? '')),
);
