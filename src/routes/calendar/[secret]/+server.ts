import { error, type RequestEvent } from '@sveltejs/kit';
import { writeICalendar } from '$core/formats/icalendar';
import { allowAnyone } from '$server/access/allow';
import { findFeed, readDueTimes } from '$server/calendar/due-times';

/** A person's due times for their own calendar program, which knows them by the secret in the address alone. */
export const GET = allowAnyone('enter', async ({ params, url }: RequestEvent, { app }) => {
  const person = await findFeed(app.db, (params.secret ?? '').replace(/\.ics$/, ''));
  if (!person) error(404, 'There is no such calendar. Its address may have been renewed.');
  const times = await readDueTimes(app.db, person.id);
  const text = writeICalendar(`${person.given}’s due times`, times, url.origin, Date.now());
  return new Response(text, {
    headers: {
      'content-type': 'text/calendar; charset=utf-8',
      'content-disposition': 'inline; filename="due-times.ics"',
      'cache-control': 'private, max-age=300',
    },
  });
});
