import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import {
  DealtToClassmates,
  dealToClassmates,
  dealToClassmatesAsBefore,
  DealToClassmates,
} from '$server/copy/deal-readers';
import { readJson } from '$server/http/body';

/** Deals copies to classmates. @returns how they were dealt before */
export const POST = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await dealToClassmates(app, grant, await readJson(request, DealToClassmates))),
);

/** Sets who reads whom, such as it was before. */
export const PUT = allowOnAssignment(
  'run the assignment',
  async ({ request }: RequestEvent, { app, grant }) =>
    json(await dealToClassmatesAsBefore(app, grant, await readJson(request, DealtToClassmates))),
);
