import type { CopyRow } from '$core/copy/copy-row';
import { isOfThisRound } from '$core/copy/state';
import { isMarkedApart } from '$core/marking/apart';
import { Checked } from '$core/marking/check-copy';
import { Scoring } from '$core/marking/scoring';
import type { OneScore } from '$core/marking/settle';
import type { Connection } from '../page/page-store';
import { readCopy } from './facts';
import { readMarkers, type Marker } from './markers';

/** What one of two gave a copy apart. */
export interface ScoreApart extends OneScore {
  id: string;
  page: string;
  person: string;
  /** Epoch milliseconds. */
  at: number;
}

/** The last that each of two gave each of these copies. */
export async function readScoresApart(
  db: Connection,
  pages: readonly string[],
): Promise<ScoreApart[]> {
  if (pages.length === 0) return [];
  const rows = await db
    .selectFrom('score_apart')
    .distinctOn(['page_id', 'person_id'])
    .selectAll()
    .where('page_id', 'in', [...pages])
    .orderBy('page_id')
    .orderBy('person_id')
    .orderBy('id', 'desc')
    .execute();
  return rows.map((row) => ({
    id: row.id,
    page: row.page_id,
    person: row.person_id,
    at: row.at.getTime(),
    points: row.points,
    rubric:
      row.rubric_points !== null && row.rubric_most !== null
        ? { points: row.rubric_points, most: row.rubric_most }
        : null,
    scoring: row.scoring && Scoring.parse(row.scoring),
    checked: row.checked && Checked.parse(row.checked),
  }));
}

/** A copy that two mark apart, and what each gave it since it was handed in. */
export interface MarkedApart {
  markers: readonly Marker[];
  /** In the order of the markers; null for who has not scored all of it. */
  scores: readonly (ScoreApart | null)[];
}

/** Who marks which copy, as it is being read. */
export type Markers = Promise<ReadonlyMap<string, readonly Marker[]>>;

/** Whether a score says all that its manner asks for. */
const isWhole = ({ points, rubric }: ScoreApart) => points !== null || rubric !== null;

/**
 * How two stand with copies that they mark apart; others are left out.
 * @param markers who marks which copy
 */
export async function readMarkedApart(
  db: Connection,
  copies: readonly Pick<CopyRow, 'id' | 'facts'>[],
  markers: ReadonlyMap<string, readonly Marker[]>,
): Promise<ReadonlyMap<string, MarkedApart>> {
  const apart = copies.filter(({ id, facts }) => isMarkedApart(markers.get(id) ?? [], facts));
  const scores = await readScoresApart(
    db,
    apart.map(({ id }) => id),
  );
  return new Map(
    apart.map(({ id, facts }) => {
      const two = markers.get(id) ?? [];
      const isOf = (one: ScoreApart, marker: Marker) =>
        one.page === id && one.person === marker.id && isOfThisRound(one.at, facts);
      const own = two.map((marker) => scores.find((one) => isOf(one, marker)) ?? null);
      return [id, { markers: two, scores: own }];
    }),
  );
}

/**
 * How two stand with one copy; null where it is not marked apart.
 * @param known who marks which copy, where that is read already
 */
export async function readApart(
  db: Connection,
  page: string,
  known?: Markers,
): Promise<MarkedApart | null> {
  const markers = await (known ?? readMarkers(db, { pages: [page] }));
  if ((markers.get(page)?.length ?? 0) < 2) return null;
  const copy = await readCopy(db, page, '');
  return (await readMarkedApart(db, [copy], markers)).get(page) ?? null;
}

/** Whether both have scored all of it. */
export const areBothThere = ({ scores }: MarkedApart): boolean =>
  scores.every((one) => one !== null && isWhole(one));

/** Whether somebody is one of the two, and has scored all of it. */
export const hasGiven = (apart: MarkedApart | undefined, person: string): boolean => {
  const own = apart?.scores.find((one) => one?.person === person);
  return !!own && isWhole(own);
};

/** Whose words on a copy somebody does not see: those of the other who marks it, until both have scored it. */
export async function readUnseen(
  db: Connection,
  page: string,
  viewer: { id: string; isStudent: boolean },
  known?: Markers,
): Promise<readonly string[]> {
  if (viewer.isStudent) return [];
  const apart = await readApart(db, page, known);
  if (!apart?.markers.some(({ id }) => id === viewer.id) || areBothThere(apart)) return [];
  return apart.markers.map(({ id }) => id).filter((id) => id !== viewer.id);
}
