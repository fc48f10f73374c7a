import { allowPerson } from '$server/access/allow';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'keep the school',
  async (_event: PageServerLoadEvent, { app, person }) => {
    const school = await app.db
      .selectFrom('school')
      .select(['name', 'time_zone'])
      .where('id', '=', person.school_id)
      .executeTakeFirstOrThrow();
    const people = await app.db
      .selectFrom('person')
      .select(['id', 'given', 'family', 'role', 'sign_in_name'])
      .where('school_id', '=', person.school_id)
      .orderBy('role', 'desc')
      .orderBy('family')
      .execute();
    return { title: 'School', school, people };
  },
);
