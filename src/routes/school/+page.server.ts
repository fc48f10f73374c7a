import type { RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowPerson } from '$server/access/allow';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import { answerRequest, readAskedInSchool } from '$server/roster/join-requests';
import { readTerms } from '$server/school/calendar';
import {
  addPerson,
  ChangedPerson,
  changePerson,
  addTeachers,
  givePasswords,
  NewPerson,
  readPeople,
  setDisabled,
} from '$server/school/people';
import { readSchool } from '$server/school/school';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'manage the school',
  async ({ url }: PageServerLoadEvent, { app, person }) => {
    const people = await readPeople(app.db, person.school_id);
    return {
      title: 'School',
      school: await readSchool(app.db, person.school_id),
      me: person.id,
      people,
      asked: await readAskedInSchool(app.db, person.school_id),
      terms: (await readTerms(app.db, person.school_id)).length,
      hasOffice: app.office !== null,
      address: url.origin,
    };
  },
);

const id = z.uuid('This person is not there any more. Please open the view again.');

const sayAdded = (added: number) =>
  added === 0
    ? 'Everybody named is here already.'
    : `${added === 1 ? 'One teacher is' : `${added} teachers are`} new. Give them first passwords next.`;

export const actions = {
  add: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, NewPerson);
      const added = await addPerson(app.db, grant, spec);
      return { passwords: await givePasswords(app, grant, [added]) };
    }),
  ),
  change: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      await changePerson(app.db, grant, await readForm(request, ChangedPerson));
    }),
  ),
  file: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { list } = await readForm(
        request,
        z.object({ list: z.instanceof(File, { message: 'Choose a file first.' }) }),
      );
      const { entries, bad } = await app.threads.run({
        kind: 'roster',
        way: { officeClass: null },
        bytes: new Uint8Array(await list.arrayBuffer()),
      });
      const added = await addTeachers(app.db, grant, entries);
      const left = bad.slice(0, 3).map(({ line, says }) => `Line ${line}: ${says}.`);
      return { says: [sayAdded(added), ...left].join(' ') };
    }),
  ),
  office: allowPerson(
    'manage the school',
    formAction(async (_event: RequestEvent, { app, grant }) => {
      if (!app.office) throw new Refusal(404, 'This school has no office system connected.');
      return { says: sayAdded(await addTeachers(app.db, grant, await app.office.teachers())) };
    }),
  ),
  passwords: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { people } = await readForm(request, z.object({ people: z.string().min(1) }));
      const read = z.array(id).max(500).safeParse(people.split(' '));
      if (!read.success) throw new Refusal(400, 'Nobody is named.');
      return { passwords: await givePasswords(app, grant, read.data) };
    }),
  ),
  disable: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ person: id, disabled: z.stringbool() }));
      await setDisabled(app, grant, spec.person, spec.disabled);
    }),
  ),
  answer: allowPerson(
    'manage the school',
    formAction(async ({ request }: RequestEvent, { app, person }) => {
      const spec = await readForm(
        request,
        z.object({ class: z.uuid('No class is named.'), person: id, yes: z.stringbool() }),
      );
      await answerRequest(app, person, spec, spec.yes);
    }),
  ),
};
