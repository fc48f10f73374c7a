import { sortCollected, type Collectable, type Sorted } from '$core/collecting/collected';
import { stateOf } from '$core/copy/state';
import type { AttachedFile } from '../attached/attach';
import { readBytes } from '../attached/file-bytes';
import type { Database } from '../db/connect';
import { readCopies } from '../copy/facts';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import type { Run } from './collecting-move';
import { GONE } from './their-files';

/** Students of the class, with their copies of the assignment. */
async function readStudents(app: Using<'db'>, { thing, person }: Run): Promise<Collectable[]> {
  const rows = await app.db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .leftJoin('office_map', (join) =>
      join.onRef('office_map.person_id', '=', 'person.id').on('office_map.kind', '=', 'person'),
    )
    .select(['person.id', 'given', 'family', 'email', 'sourced_id as number'])
    .where('enrolment.class_id', '=', thing.class.id)
    .where('left_at', 'is', null)
    .orderBy('family')
    .orderBy('given')
    .orderBy('person.id')
    .execute();
  const which = { class: thing.class.id, assignment: thing.id };
  const copies = await readCopies(app.db, which, person.id);
  return rows.map((row) => {
    const copy = copies.find(
      ({ members, delivery }) => members.includes(row.id) && delivery !== 'to read',
    );
    return {
      ...row,
      number: row.number ?? '',
      copy: copy?.id ?? null,
      state: copy ? stateOf(copy.facts) : null,
    };
  });
}

/** All that was collected for an assignment of a class, and whose it is. */
export async function readCollecting(
  app: Using<'db'>,
  grant: Run,
): Promise<{ title: string; students: Collectable[]; files: Sorted[] }> {
  const { thing } = grant;
  const students = await readStudents(app, grant);
  const rows = await app.db
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .leftJoin('attachment', 'attachment.id', 'collected.attachment_id')
    .select(['collected.id', 'path', 'collected.type', 'size', 'student_id', 'handed_in'])
    .select(['collected.away_at', 'apart', 'done', 'total', 'left_out', 'attachment.page_id'])
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .orderBy('collected.at')
    .orderBy('collected.from_id', (order) => order.asc().nullsFirst())
    .orderBy('place')
    .execute();
  const { title } = await app.db
    .selectFrom('assignment')
    .select('title')
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const collected = rows.map((row) => ({
    id: row.id,
    path: row.path,
    type: row.type,
    size: Number(row.size),
    student: row.student_id,
    copy: row.page_id,
    handedIn: row.handed_in,
    away: row.away_at !== null,
    apart: row.apart,
    done: row.done,
    total: row.total,
    leftOut: row.left_out,
  }));
  return { title, students, files: sortCollected(collected, students, title) };
}

/** A collected file, to be looked at. @throws Refusal when there is no such file */
export async function openCollected(
  app: Using<'db'>,
  { thing }: Run,
  file: string,
): Promise<AttachedFile> {
  const row = await app.db
    .selectFrom('collected')
    .innerJoin('upload', 'upload.id', 'collected.upload_id')
    .select(['upload.id', 'upload.name', 'upload.type', 'upload.size'])
    .where('collected.id', '=', file)
    .where('collected.assignment_id', '=', thing.id)
    .where('collected.class_id', '=', thing.class.id)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, GONE);
  const { id, name, type } = row;
  return { name, type, size: Number(row.size), bytes: (range) => readBytes(app.db, id, range) };
}

/** How many files wait to be collected, by assignment of a class. */
export async function countWaiting(db: Database, klass: string): Promise<Map<string, number>> {
  const rows = await db
    .selectFrom('collected')
    .select((eb) => ['assignment_id', eb.fn.countAll<string>().as('count')])
    .where('class_id', '=', klass)
    .where('attachment_id', 'is', null)
    .where('away_at', 'is', null)
    .where('apart', 'is', null)
    .groupBy('assignment_id')
    .execute();
  return new Map(rows.map(({ assignment_id, count }) => [assignment_id, Number(count)]));
}
