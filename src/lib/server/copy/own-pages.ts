import { sql } from 'kysely';
import { randomUUID } from 'node:crypto';
import type { Node } from 'prosemirror-model';
import type { InFolio } from '$core/copy/folio';
import { emptyPage } from '$core/page/schema';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { Refusal } from '../page/refusal';
import { sharePictures } from '../file/files';
import { HeldPage } from '../page/held-page';
import { writeSnapshots } from '../page/write-changes';
import { inTransaction, type Tx } from '../db/transaction';

interface OwnPage {
  school: number;
  class: string;
  student: string;
  title: string;
  unit: string | null;
  from?: string;
  id?: string;
  folio?: InFolio | null;
  place?: number;
}

/**
 * A student's own page in a class, empty or as given, until they put it away. With an `id` that is there already, nothing
 * is made. @returns its id
 */
export const beginAs = (app: Using<'db'>, spec: OwnPage, page: Node): Promise<string> =>
  inTransaction(app.db, (tx) => insertOwnPage(tx, spec, page));

/** The same, as part of a transaction. */
export async function insertOwnPage(tx: Tx, spec: OwnPage, page: Node): Promise<string> {
  const { id = randomUUID() } = spec;
  const at = new Date();
  const { numInsertedOrUpdatedRows: made } = await tx
    .insertInto('page')
    .values({
      id,
      school_id: spec.school,
      kind: 'own page',
      title: spec.title,
      made_at: at,
      class_id: spec.class,
      student_id: spec.student,
      unit_id: spec.unit,
      from_id: spec.from ?? null,
      folio: spec.folio ?? null,
      place: spec.place ?? 0,
    })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .executeTakeFirstOrThrow();
  if (made) {
    await writeSnapshots(tx, at, [{ id, school: spec.school, held: HeldPage.at(0, page, []) }]);
    if (spec.from) await sharePictures(tx, [{ id, from: spec.from }]);
  }
  return id;
}

/** A new empty page in a student's workbook. */
export const beginOwnPage = (
  app: Using<'db'>,
  { thing, person }: Grant<'manage own workbook'>,
  title: string,
): Promise<string> =>
  beginAs(
    app,
    { school: thing.school_id, class: thing.id, student: person.id, title, unit: null },
    emptyPage(),
  );

/** A copy of something a student may read, to write on. @throws Refusal when it is of no class */
export async function copyReading(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'take a copy of the page'>,
): Promise<string> {
  const { id: from, school_id: school, class_id, title, unit_id: unit } = thing;
  if (!class_id) throw new Refusal(404, 'This page cannot be taken into a workbook.');
  const { doc } = await app.pages.open(from);
  return beginAs(app, { school, class: class_id, student: person.id, title, unit, from }, doc);
}

/** Puts an own page away, or brings it back; a cover comes back as a page where its folio has another one now. */
export const putOwnPageAway = (
  app: Using<'db'>,
  { thing, person }: Grant<'manage own workbook'>,
  page: string,
  away: boolean,
) =>
  app.db
    .updateTable('page')
    .set({
      away_at: away ? new Date() : null,
      ...(away
        ? {}
        : {
            folio: sql<'hidden'>`case when folio = 'cover' and exists (select from page other
              where other.class_id = page.class_id and other.student_id = page.student_id
                and other.folio = 'cover' and other.away_at is null and other.id <> page.id)
              then 'hidden' else folio end`,
          }),
    })
    .where('id', '=', page)
    .where('kind', '=', 'own page')
    .where('class_id', '=', thing.id)
    .where('student_id', '=', person.id)
    .execute();
