import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { readToScore } from '$server/copy/classmates';
import { readClassesToRead, readOpenClasses, readOwnWork } from '$server/copy/own-work';
import { readWrittenTo } from '$server/copy/written-to';
import { readForm, formAction } from '$server/http/form';
import { answerRequest, readAsked } from '$server/roster/join-requests';
import { readTimeZone } from '$server/school/time-zone';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'see own work',
  async ({ depends }: PageServerLoadEvent, { app, person, grant }) => {
    depends('uncia:work');
    const work = await readOwnWork(app, person.id);
    return {
      title: 'My work',
      now: Date.now(),
      timeZone: await readTimeZone(app.db, person.school_id),
      work,
      written: await readWrittenTo(
        app.db,
        grant,
        work.map(({ id }) => id),
      ),
      toScore: await readToScore(app.db, grant),
      classes: await readOpenClasses(app.db, person.id),
      toRead: await readClassesToRead(app.db, person.id),
      asked: await readAsked(app.db, person.id),
    };
  },
);

export const actions = {
  /** Says yes or no to a teacher who asks them into a class. */
  answer: allowPerson(
    'see own work',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const { class: klass, yes } = await readForm(
        request,
        z.object({ class: z.uuid('No class is named.'), yes: z.stringbool() }),
      );
      await answerRequest(app, person, { class: klass, person: person.id }, yes);
    }),
  ),
};
