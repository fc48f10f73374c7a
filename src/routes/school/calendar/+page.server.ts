import { z } from 'zod';
import { dayOf } from '$core/calendar/local-time';
import { counted } from '$core/lists/counted';
import { weeksOf } from '$core/calendar/weeks';
import { allowPerson } from '$server/access/allow';
import { readForm, formAction } from '$server/http/form';
import { dropStretch, readHolidays, readTerms, writeStretch } from '$server/school/calendar';
import { QuietHours, readQuietHours, setQuietHours } from '$server/school/quiet-hours';
import { readTimeZone, setTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowPerson(
  'manage the school',
  async (_event: PageServerLoadEvent, { app, person }) => {
    const timeZone = await readTimeZone(app.db, person.school_id);
    const terms = await readTerms(app.db, person.school_id);
    const holidays = await readHolidays(app.db, person.school_id);
    return {
      trail: [{ title: 'Calendar' }],
      terms: terms.map((term) => ({ ...term, weeks: weeksOf(term, holidays) })),
      holidays,
      timeZone,
      quiet: await readQuietHours(app.db, person.school_id),
      timeZones: TIME_ZONES,
      today: dayOf(Date.now(), timeZone),
    };
  },
);

/** The platform's list leaves UTC out. */
const TIME_ZONES = ['UTC', ...Intl.supportedValuesOf('timeZone')];

const id = z.uuid('This entry is not there any more.');
const kind = z.enum(['term', 'holiday']);
const date = z.iso.date('A date is missing.');
const Entry = z.object({
  kind,
  id: z.union([id, z.literal('')]).transform((text) => text || null),
  name: z
    .string()
    .trim()
    .min(1, 'A name is missing.')
    .max(100, 'A name has at most 100 characters.'),
  starts: date,
  ends: date,
});

export const actions = {
  write: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { kind, ...entry } = await readForm(request, Entry);
      const { dueAfter } = await writeStretch(app.db, grant, kind, entry);
      return dueAfter === 0
        ? {}
        : {
            says: `It is saved. ${counted(dueAfter, 'assignment is', 'assignments are')} due after this term has ended, and stay so.`,
          };
    }),
  ),
  drop: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ kind, id }));
      await dropStretch(app.db, grant, spec.kind, spec.id);
    }),
  ),
  quiet: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      await setQuietHours(app.db, grant, await readForm(request, QuietHours));
    }),
  ),
  zone: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { zone } = await readForm(
        request,
        z.object({ zone: z.enum(TIME_ZONES, 'Choose a time zone.') }),
      );
      await setTimeZone(app.db, grant, zone);
    }),
  ),
};
