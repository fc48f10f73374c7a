import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { Deal, dealAsBefore, dealOut, Dealt } from '$server/copy/deal-out';
import { readJson } from '$server/http/body';

/** Deals copies to those who mark them. @returns how they were dealt before */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await dealOut(app, grant, await readJson(request, Deal))),
);

/** Sets who marks each copy, such as it was before. */
export const PUT = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await dealAsBefore(app, grant, await readJson(request, Dealt))),
);
