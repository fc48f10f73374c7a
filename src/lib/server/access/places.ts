import { OPEN_CLASS } from './class-state';
import type { Database } from '../db/connect';

/** The places whose news a person hears: the classes and courses whose staff they are, and those they are a student of. */
export async function placesOf(db: Database, person: string) {
  const staff = await db
    .selectFrom('class_staff')
    .select('class_id as place')
    .where('person_id', '=', person)
    .unionAll(
      db.selectFrom('course_staff').select('course_id as place').where('person_id', '=', person),
    )
    .execute();
  const student = await db
    .selectFrom('enrolment')
    .innerJoin('class', 'class.id', 'enrolment.class_id')
    .select('class_id as place')
    .where('person_id', '=', person)
    .where('left_at', 'is', null)
    .where(OPEN_CLASS)
    .execute();
  return {
    places: new Set(staff.map(({ place }) => place)),
    studentOf: new Set(student.map(({ place }) => place)),
  };
}
