import { LRUCache } from 'lru-cache';
import type { OfficeDifference } from '$core/desk/desk-view';
import { compareRoster } from '$core/roster/compare-roster';
import type { Entry } from '$core/roster/read-roster';
import type { Grant } from '../access/grant';
import { Refusal } from '../page/refusal';
import { readKnown } from '../roster/known';
import type { Using } from '../services';
import { readOwnClasses } from './own-classes';

/** While both agree the office is asked for a class once an hour; that they differ is said of what it says just now. */
const heard = new LRUCache<string, Entry[]>({ max: 1000, ttl: 3_600_000 });

/** Where the rosters of a teacher's classes differ from the office's, of those that were paired with one of its classes. */
export async function readOfficeDifferences(
  { db, office }: Using<'db' | 'office'>,
  { person: teacher }: Grant<'see own desk'>,
): Promise<OfficeDifference[]> {
  const own = (await readOwnClasses(db, teacher.id)).filter(({ leads }) => leads);
  if (!office || own.length === 0) return [];
  const pairs = await db
    .selectFrom('office_map')
    .select(['class_id as id', 'sourced_id'])
    .where('kind', '=', 'class')
    .where(
      'class_id',
      'in',
      own.map(({ id }) => id),
    )
    .execute();
  const found: OfficeDifference[] = [];
  for (const { id, sourced_id } of pairs) {
    if (id === null) continue;
    const key = `${teacher.school_id} ${sourced_id}`;
    const known = await readKnown(db, { id, school_id: teacher.school_id });
    const before = heard.get(key);
    if (before && compareRoster(before, known, true).changes.length === 0) continue;
    const entries = await ask(() => office.students(sourced_id));
    if (!entries) continue;
    heard.set(key, entries);
    const { changes } = compareRoster(entries, known, true);
    const count = (kind: string) => changes.filter((change) => change.kind === kind).length;
    const [joins, leaves] = [count('joins'), count('leaves')];
    const other = changes.length - joins - leaves;
    if (changes.length > 0) found.push({ class: id, joins, leaves, other });
  }
  return found;
}

/** What the office says; null where it does not answer, or has no such class any more: the roster's view says so. */
async function ask(office: () => Promise<Entry[]>): Promise<Entry[] | null> {
  try {
    return await office();
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}
