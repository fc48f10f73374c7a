import type { Database } from '../db/connect';

/** The people whom the sign-in page offers in the demo; a real school has none. */
export const demoPeople = (db: Database) =>
  db
    .selectFrom('person')
    .select(['given', 'family', 'role', 'sign_in_name as name'])
    .where('demo', '=', true)
    .orderBy('role', 'desc')
    .orderBy('family')
    .execute();
