import type { Database } from '../db/connect';

export const readSchool = (db: Database, school: number) =>
  db
    .selectFrom('school')
    .select(['name', 'time_zone'])
    .where('id', '=', school)
    .executeTakeFirstOrThrow();
