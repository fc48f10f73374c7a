import { sql } from 'kysely';
import type { Tx } from '../db/transaction';
import { ascendingIds } from './ascending-ids';
import type { ArchivedClass } from './read-record';
import { rows, type Opening } from './insert-rows';

/**
 * Whom the school knows: by the office's number, else by their e-mail address. All others stand as a name, and nobody
 * signs in as them. @returns the id of each, by number
 */
export async function placePeople(
  tx: Tx,
  people: ArchivedClass['people'],
  { school }: Opening,
): Promise<{ ids: Map<number, string>; unknown: Set<number> }> {
  const known = await tx
    .selectFrom('person')
    .leftJoin('office_map', (join) =>
      join.onRef('office_map.person_id', '=', 'person.id').on('office_map.kind', '=', 'person'),
    )
    .select(['person.id', 'person.role', 'person.email', 'office_map.sourced_id as office'])
    .where('person.school_id', '=', school)
    .where('person.name_only', '=', false)
    .execute();
  const [ids, unknown, taken] = [new Map<number, string>(), new Set<number>(), new Set<string>()];
  const find = (one: ArchivedClass['people'][number]) => {
    const free = known.filter(({ id, role }) => role === one.role && !taken.has(id));
    const byNumber = free.find(({ office }) => one.office !== null && office === one.office);
    if (byNumber) return byNumber;
    const email = one.email.toLowerCase();
    const byMail = free.filter((other) => email !== '' && other.email.toLowerCase() === email);
    return byMail.length === 1 ? byMail[0] : undefined;
  };
  const newId = ascendingIds();
  for (const one of people) {
    const same = find(one);
    if (same) taken.add(same.id);
    else unknown.add(one.n);
    ids.set(one.n, same?.id ?? newId(one.n));
  }
  const names = people.flatMap(({ n, role, given, family, called, email }) =>
    unknown.has(n) ? { id: ids.get(n), role, given, family, called, email } : [],
  );
  await sql`insert into person (id, school_id, role, given, family, called, email, sign_in_name, password_hash, mails,
      name_only, disabled_at)
    select id, ${school}, role, given, family, called, email, 'archive ' || id, '', 'never', true, now()
    from jsonb_to_recordset(${rows(names)}::jsonb) as r(id uuid, role text, given text, family text, called text, email text)`.execute(
    tx,
  );
  return { ids, unknown };
}
