import type { Grant } from '../access/grant';
import type { Using } from '../services';
import type { Database } from '../db/connect';
import { readHome } from '../page/home';
import { readSetAside } from '../page/set-aside';
import { readTimeZone } from '../school/time-zone';
import { readBase } from './adapted';
import { readKeys } from './answer-keys';
import { readOwnClasses } from './courses';
import { readPageNotes } from './notes';

/** A page that is no copy, with all that its editor needs. */
export async function openEditor(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'manage the page'>,
) {
  const held = await app.pages.open(thing.id);
  const classes = await readOwnClasses(app.db, person.id);
  return {
    trail: [...(await readHome(app.db, thing)), { title: thing.title }],
    page: thing.id,
    title: thing.title,
    kind: thing.kind,
    version: held.version,
    doc: held.doc.toJSON() as object,
    keys: await readKeys(app.db, thing.id),
    base: await readBase(app, thing),
    notes: await readPageNotes(app.db, [thing.id], person.id),
    setAside: await readSetAside(app.db, thing.id, person.id),
    // A page of a class goes out in that class alone.
    classes: classes.filter((klass) =>
      thing.class_id === null ? klass.course_id === thing.course_id : klass.id === thing.class_id,
    ),
    timeZone: await readTimeZone(app.db, thing.school_id),
  };
}

export const renamePage = (
  db: Database,
  { thing }: Grant<'manage the page'>,
  title: string,
): Promise<unknown> => db.updateTable('page').set({ title }).where('id', '=', thing.id).execute();
