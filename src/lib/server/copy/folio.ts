import { sql } from 'kysely';
import type { Grant } from '../access/grant';
import { readStudents } from '../class/board';
import type { Database } from '../db/connect';
import { inTransaction, type Tx } from '../db/transaction';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import { FOLIO, TO_CLASSMATES, type InFolio } from '$core/copy/folio';
import { emptyPage } from '$core/page/schema';
import { insertOwnPage } from './own-pages';

/** A page of a folio. Instants in epoch milliseconds. */
interface FolioPage {
  id: string;
  title: string;
  /** The cover comes first; classmates see it, and what is shown. */
  folio: InFolio;
  words: number;
  changed: number;
}

/** A student's folio in a class, in its order; what is hidden only where `all`. */
async function readFolio(
  db: Database,
  of: { class: string; student: string },
  all: boolean,
): Promise<FolioPage[]> {
  const rows = await db
    .selectFrom('page')
    .select(['id', 'title', 'folio', 'words', 'written_at', 'made_at'])
    .where('class_id', '=', of.class)
    .where('student_id', '=', of.student)
    .where('folio', 'in', all ? FOLIO : TO_CLASSMATES)
    .where('away_at', 'is', null)
    .orderBy(sql`folio = 'cover'`, 'desc')
    .orderBy('place')
    .orderBy('made_at')
    .execute();
  return rows.flatMap(({ folio, written_at, made_at, words, ...page }) =>
    folio ? { ...page, folio, words: words ?? 0, changed: (written_at ?? made_at).getTime() } : [],
  );
}

async function withCover(app: Using<'pages'>, pages: readonly FolioPage[]) {
  const cover = pages.find(({ folio }) => folio === 'cover');
  return {
    cover: cover
      ? { ...cover, doc: (await app.pages.open(cover.id)).doc.toJSON() as object }
      : null,
    pages: pages.filter(({ folio }) => folio !== 'cover'),
  };
}

/** A student's own folio, with the pages of their workbook that are not in it. */
export async function viewOwnFolio(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'see own workbook'>,
) {
  const besides = await app.db
    .selectFrom('page')
    .select(['id', 'title'])
    .where('class_id', '=', thing.id)
    .where('student_id', '=', person.id)
    .where('kind', '=', 'own page')
    .where('folio', 'is', null)
    .where('away_at', 'is', null)
    .orderBy('made_at')
    .execute();
  const pages = await readFolio(app.db, { class: thing.id, student: person.id }, true);
  return { klass: thing, now: Date.now(), besides, ...(await withCover(app, pages)) };
}

/** The folios of a class: of each, what whoever asks may see. */
export async function viewFolios(
  app: Using<'db'>,
  { thing, person, relation }: Grant<'see the folios'>,
) {
  const isStaff = relation !== 'student';
  const rows = await app.db
    .selectFrom('page')
    .select(({ fn }) => [
      'student_id',
      sql<string | null>`max(title) filter (where folio = 'cover')`.as('title'),
      sql<number>`(count(*) filter (where folio = 'shown'))::int`.as('shown'),
      sql<number>`(count(*) filter (where folio = 'hidden'))::int`.as('hidden'),
      fn.max('written_at').as('changed'),
    ])
    .where('class_id', '=', thing.id)
    .where('folio', 'is not', null)
    .where('away_at', 'is', null)
    .groupBy('student_id')
    .execute();
  const students = await readStudents(app.db, thing.id);
  return {
    klass: thing,
    isStaff,
    now: Date.now(),
    folios: students.flatMap(({ id, name, given, family }) => {
      const row = rows.find(({ student_id }) => student_id === id);
      if (!isStaff && (id === person.id || !row?.title)) return [];
      return {
        student: id,
        name: isStaff ? name : `${given} ${family}`,
        title: row?.title ?? null,
        shown: row?.shown ?? 0,
        hidden: isStaff ? (row?.hidden ?? 0) : 0,
        changed: isStaff ? (row?.changed?.getTime() ?? null) : null,
      };
    }),
  };
}

/** A folio as others see it: the staff all of it, classmates what is shown. @throws Refusal where there is none to see */
export async function viewFolio(
  app: Using<'db' | 'pages'>,
  { thing, relation }: Grant<'see the folios'>,
  id: string | undefined,
) {
  const student = (await readStudents(app.db, thing.id)).find((one) => one.id === id);
  if (!student) throw new Refusal(404, 'This student is not in the class.');
  const isStaff = relation !== 'student';
  const pages = await readFolio(app.db, { class: thing.id, student: student.id }, isStaff);
  const view = await withCover(app, pages);
  // Without a cover there is no folio for classmates.
  if (!isStaff && !view.cover) throw new Refusal(404, 'This student has no folio yet.');
  return {
    klass: thing,
    isStaff,
    now: Date.now(),
    student: `${student.given} ${student.family}`,
    ...view,
  };
}

type Own = Grant<'manage own workbook'>;

const ownPagesOf = (tx: Tx, { thing, person }: Own) =>
  tx
    .selectFrom('page')
    .select(['id', 'folio', 'version', 'away_at'])
    .where('class_id', '=', thing.id)
    .where('student_id', '=', person.id)
    .where('kind', '=', 'own page')
    .orderBy('place')
    .orderBy('made_at')
    .orderBy('id')
    .forUpdate()
    .execute();

/** Makes a new page of a folio: its cover where it has none, else a hidden page at its end. @returns its id */
export const addFolioPage = (app: Using<'db'>, grant: Own, title: string): Promise<string> =>
  inTransaction(app.db, async (tx) => {
    const { thing, person } = grant;
    // Two who begin it at once are one person with two tabs.
    await tx.selectFrom('person').select('id').where('id', '=', person.id).forUpdate().execute();
    const own = await ownPagesOf(tx, grant);
    const hasCover = own.some(({ folio, away_at }) => folio === 'cover' && away_at === null);
    const whose = { school: thing.school_id, class: thing.id, student: person.id };
    const folio = hasCover ? 'hidden' : 'cover';
    const spec = { ...whose, title, unit: null, folio, place: own.length + 1 } as const;
    return insertOwnPage(tx, spec, emptyPage());
  });

/** What is done with one page of a folio. */
export const FOLIO_MOVES = ['add', 'take out', 'show', 'hide', 'up', 'down'] as const;
export type FolioMove = (typeof FOLIO_MOVES)[number];

/**
 * Puts a page into the folio, takes it out, shows or hides it, or moves it by one place.
 * @throws Refusal when it is no page of this student's that this can be done with
 */
export const changeFolio = (
  app: Using<'db'>,
  grant: Own,
  page: string,
  move: FolioMove,
): Promise<void> =>
  inTransaction(app.db, async (tx) => {
    const own = (await ownPagesOf(tx, grant)).filter(({ away_at }) => away_at === null);
    const one = own.find(({ id }) => id === page);
    if (!one) throw new Refusal(404, 'You have no such page in this class.');
    if (move !== 'add' && (one.folio === null || one.folio === 'cover'))
      throw new Refusal(409, 'This page is not one of your folio any more. Please look again.');
    if (move === 'up' || move === 'down') {
      const order = own.filter(({ folio }) => folio === 'hidden' || folio === 'shown');
      const at = order.indexOf(one);
      const to = at + (move === 'up' ? -1 : 1);
      if (to < 0 || to >= order.length) return;
      order.splice(to, 0, ...order.splice(at, 1));
      await sql`update page set place = r.place
        from unnest(${order.map(({ id }) => id)}::uuid[]) with ordinality as r(id, place) where page.id = r.id`.execute(
        tx,
      );
      return;
    }
    if (move === 'add' && one.folio !== null) return;
    await tx
      .updateTable('page')
      .set({
        folio: move === 'take out' ? null : move === 'show' ? 'shown' : 'hidden',
        // How it was written before belongs to its student and the staff.
        ...(move === 'show' ? { seen_from: one.version } : {}),
        ...(move === 'add' ? { place: own.length + 1 } : {}),
      })
      .where('id', '=', page)
      .execute();
  });

/** Gives an own page another title. */
export const renameOwnPage = (
  app: Using<'db'>,
  { thing, person }: Own,
  page: string,
  title: string,
) =>
  app.db
    .updateTable('page')
    .set({ title })
    .where('id', '=', page)
    .where('kind', '=', 'own page')
    .where('class_id', '=', thing.id)
    .where('student_id', '=', person.id)
    .execute();
