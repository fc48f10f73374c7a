import { sql } from 'kysely';
import type { CopyRow } from '$core/copy/copy-row';
import { isOfThisRound, isWithTeacher, stateOf } from '$core/copy/state';
import { isMarkedApart } from '$core/marking/apart';
import { Checked } from '$core/marking/check-copy';
import type { Keys } from '$core/marking/key-changes';
import type { Part } from '$core/page/parts';
import type { Grant } from '../access/grant';
import { readKeyPages, readKeysOf } from '../course/answer-keys';
import type { Connection, PageOrigin } from '../page/page-store';
import { readPartsNow } from '../page/parts-now';
import { readCopies } from './facts';
import { readMarkers } from './markers';

/**
 * A copy that is with the teacher or back, with its parts, what they count for, and what they came to. What was scored before
 * it was handed in last was another work.
 */
export interface ScoredCopy {
  copy: CopyRow;
  page: PageOrigin & { school_id: number };
  parts: readonly Part[];
  /** The page that its keys belong to. */
  keyPage: string;
  keys: Keys;
  /** Its last score, where that was part by part. */
  checked: Checked | null;
  /** Its last score is points alone, or by a rubric. */
  otherwise: boolean;
}

/** The classes of an assignment whose copies somebody marks. */
export async function readMarkedClasses(
  db: Connection,
  { thing, person }: Pick<Grant<'mark its copies'>, 'thing' | 'person'>,
): Promise<{ id: string; name: string }[]> {
  return db
    .selectFrom('class_staff')
    .innerJoin('class', 'class.id', 'class_staff.class_id')
    .select(['class.id', 'class.name'])
    .where('class_staff.person_id', '=', person.id)
    .where('class.id', 'in', [...thing.classes])
    .where('class.archived_at', 'is', null)
    .orderBy('class.name')
    .execute();
}

/**
 * The copies of an assignment that can be scored part by part; none that two mark apart.
 * @param classes of these classes
 * @param viewer whose looks count for "unread"
 * @param among only these copies; null for all
 */
export async function readScoredCopies(
  db: Connection,
  assignment: string,
  classes: readonly string[],
  viewer: string,
  among: ReadonlySet<string> | null = null,
): Promise<ScoredCopy[]> {
  const all = await readCopies(
    db,
    { assignments: classes.map((one) => ({ assignment, class: one })) },
    viewer,
  );
  const markers = await readMarkers(db, { pages: all.map(({ id }) => id) });
  const copies = all.filter(({ id, delivery, facts }) => {
    const state = stateOf(facts);
    const isAsked =
      (among === null || among.has(id)) && !isMarkedApart(markers.get(id) ?? [], facts);
    return isAsked && delivery !== 'to read' && (isWithTeacher(state) || state === 'handed back');
  });
  if (copies.length === 0) return [];
  const ids = copies.map(({ id }) => id);
  const pages = await db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version', 'school_id'])
    .where('id', 'in', ids)
    .execute();
  const { rows: scores } = await sql<{ page_id: string; at: Date; checked: object | null }>`
    select distinct on (page_id) page_id, at, checked from score where page_id = any(${ids}::uuid[])
    order by page_id, id desc`.execute(db);
  const scoreOf = new Map(scores.map((row) => [row.page_id, row]));
  const pageOf = new Map(pages.map((page) => [page.id, page]));
  const origin = (copy: CopyRow) => ({
    source: pageOf.get(copy.id)?.source_id ?? copy.for,
    for: copy.for,
  });
  const keyPageOf = await readKeyPages(db, copies.map(origin));
  const keys = await readKeysOf(db, copies.map(origin).map(keyPageOf));
  const parts = await readPartsNow(db, pages);
  return copies.flatMap((copy): ScoredCopy[] => {
    const page = pageOf.get(copy.id);
    if (!page) return [];
    const keyPage = keyPageOf(origin(copy));
    const last = scoreOf.get(copy.id);
    const isOfThis = last !== undefined && isOfThisRound(last.at.getTime(), copy.facts);
    return [
      {
        copy,
        page,
        parts: parts.get(copy.id) ?? [],
        keyPage,
        keys: keys.get(keyPage) ?? {},
        checked: isOfThis && last.checked ? Checked.parse(last.checked) : null,
        otherwise: isOfThis && last.checked === null,
      },
    ];
  });
}
