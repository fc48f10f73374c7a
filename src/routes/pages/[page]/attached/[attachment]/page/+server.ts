import { json, type RequestEvent } from '@sveltejs/kit';
import { allowOnPage } from '$server/access/allow';
import { readAttachedPage } from '$server/attached/attach';

/** A document that is attached, as a page; with `kept`, what stood behind a link when it was handed in. */
export const GET = allowOnPage(
  'read the page',
  async ({ params, url }: RequestEvent, { app, grant }) =>
    json(
      await readAttachedPage(app, grant, {
        id: params.attachment ?? '',
        kept: url.searchParams.has('kept'),
      }),
    ),
);
