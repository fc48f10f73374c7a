import { PERSON_HEADER } from '$core/page/person-header';
import { Refusal } from '../page/refusal';

const CHANGING = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

interface Asking {
  request: Request;
  url: URL;
  /** Who is signed in with this request. */
  person: { id: string } | null;
}

/**
 * What every request must pass before any route sees it: an address of text; where it changes something, a page of our
 * own that it comes from, and the person whose tab that page is in.
 * @throws Refusal
 */
export function passGate({ request, url, person }: Asking): void {
  if (/%00|\0/.test(url.pathname + url.search))
    throw new Refusal(400, 'This address holds a character that is none.');
  if (!CHANGING.has(request.method)) return;
  if (request.headers.get('origin') !== url.origin)
    throw new Refusal(403, 'This was sent from a page that is not of Uncia, so nothing was done.');
  const tabOf = request.headers.get(PERSON_HEADER);
  if (tabOf !== null && tabOf !== person?.id)
    throw new Refusal(
      401,
      'Somebody else is signed in on this computer now. What you wrote stays in this browser for you.',
    );
}
