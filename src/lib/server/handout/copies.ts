import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import type { CopyChange, StandingCopy } from '$core/handout/change';
import type { PlannedCopy } from '$core/handout/plan';
import type { Tx } from '../db/transaction';
import type { PageMemory } from '../page/page-memory';
import { HOLDERS } from '../copy/holders';
import { insertOwnPage } from '../copy/own-pages';
import { readPage, type Connection } from '../page/page-store';
import { writeSnapshots } from '../page/write-changes';

/** Every copy of an assignment, whoever may see it. */
export async function readStandingCopies(
  db: Connection,
  assignment: string,
): Promise<StandingCopy[]> {
  const { rows } = await sql<StandingCopy>`
    select page.id, class_id as class, for_id as for, source_id as source, delivery, student_id as student,
      coalesce(group_name, '') as "group", written_at is not null as begun,
      case when away_at is not null then 'withdrawn' when replaced_at is not null then 'kept' else 'current' end
        as standing,
      ${HOLDERS} as members
    from page where assignment_id = ${assignment} and kind = 'copy' order by made_at desc, id`.execute(
    db,
  );
  return rows;
}

/**
 * In which version copies of each page begin, and makes sure that it stands as a snapshot: an original of the assignment
 * in the version that was handed out, another page in its newest.
 * @returns the versions, by page
 */
export async function fixSources(
  memory: PageMemory,
  tx: Tx,
  { assignment, school, at }: Pick<CopySpec, 'assignment' | 'school' | 'at'>,
  pages: Iterable<string>,
): Promise<Map<string, number>> {
  const wanted = [...new Set(pages)];
  const handedOut = await tx
    .selectFrom('assignment_original')
    .innerJoin('page', 'page.id', 'page_id')
    .leftJoin('snapshot', (join) =>
      join
        .onRef('snapshot.page_id', '=', 'page.id')
        .onRef('snapshot.version', '=', 'assignment_original.version'),
    )
    .select(['page.id', 'page.version', 'source_id', 'source_version'])
    .select(['assignment_original.version as begins', 'snapshot.version as stands'])
    .where('assignment_original.assignment_id', '=', assignment)
    .where('page.id', '=', sql<string>`any(${wanted}::uuid[])`)
    .execute();
  const versions = new Map(handedOut.map(({ id, begins }) => [id, begins]));
  for (const { begins, stands, ...page } of handedOut)
    if (stands === null)
      await writeSnapshots(tx, at, [
        { id: page.id, school, held: await readPage(tx, page, begins) },
      ]);
  for (const id of wanted.filter((one) => !versions.has(one))) {
    const held = await memory.open(tx, id);
    if (held.hasNews) await writeSnapshots(tx, at, [{ id, school, held }]);
    versions.set(id, held.version);
  }
  return versions;
}

export interface CopySpec {
  assignment: string;
  school: number;
  /** What a copy of this original is called. */
  title: (original: string) => string;
  guarded: boolean;
  at: Date;
  /** When the change was made that this one undoes. */
  undoes?: Date | null;
  /** The versions of the assignment's pages that stand as snapshots already. */
  versions: ReadonlyMap<string, number>;
}

type Made = PlannedCopy & { from?: string | null };

/** Makes copies: those of one student each in one statement, in which what many have in common is sent once. */
async function makeCopies(
  memory: PageMemory,
  tx: Tx,
  spec: CopySpec,
  planned: readonly Made[],
): Promise<void> {
  if (planned.length === 0) return;
  const begins = ({ from, source }: Made) => from ?? source;
  const others = planned.map(begins).filter((source) => !spec.versions.has(source));
  const versions = new Map([...spec.versions, ...(await fixSources(memory, tx, spec, others))]);
  const insert = (
    copies: readonly Made[],
    students: readonly (string | null)[],
    kinds: readonly number[],
  ) => {
    const column = <T>(of: (copy: Made) => T) => copies.map(of);
    return sql<{ id: string }>`
      insert into page (school_id, kind, title, source_id, source_version, for_id, delivery, group_name,
        assignment_id, class_id, student_id, guarded, made_at)
      select ${spec.school}, 'copy', title, source, version, "for", delivery, group_name, ${spec.assignment}::uuid,
        class, student, ${spec.guarded}::boolean, ${spec.at}::timestamptz
      from unnest(${students}::uuid[], ${kinds}::int[]) as wanted(student, kind)
      join unnest(${column((copy) => spec.title(copy.for))}::text[], ${column(begins)}::uuid[],
        ${column((copy) => versions.get(begins(copy)) ?? 0)}::int[], ${column((copy) => copy.for)}::uuid[],
        ${column(({ delivery }) => delivery)}::text[],
        ${column(({ student, group }) => (student === null ? group : null))}::text[],
        ${column((copy) => copy.class)}::uuid[]) with ordinality
        as common(title, source, version, "for", delivery, group_name, class, kind) using (kind)`;
  };
  const own = planned.filter(({ student }) => student !== null);
  const kinds = new Map<string, number>();
  const kindOf = own.map((copy) => {
    const key = `${copy.class} ${copy.for} ${begins(copy)} ${copy.delivery}`;
    const known = kinds.get(key) ?? kinds.size + 1;
    kinds.set(key, known);
    return known;
  });
  const common = [...kinds.values()].flatMap((kind) => own[kindOf.indexOf(kind)] ?? []);
  if (own.length > 0)
    await insert(
      common,
      own.map(({ student }) => student),
      kindOf,
    ).execute(tx);
  for (const copy of planned.filter(({ student }) => student === null)) {
    const { rows } = await sql<{ id: string }>`${insert([copy], [null], [1])} returning id`.execute(
      tx,
    );
    for (const { id } of rows) await setMembers(tx, spec.school, id, copy.members);
  }
}

async function setMembers(tx: Tx, school_id: number, page_id: string, members: readonly string[]) {
  await tx.deleteFrom('page_member').where('page_id', '=', page_id).execute();
  if (members.length > 0)
    await tx
      .insertInto('page_member')
      .values(members.map((person_id) => ({ page_id, person_id, school_id })))
      .execute();
}

/** Who is no longer of a group keeps what it wrote until now, in a page of their own; not what was written before they came. */
async function leaveWithWhatWasWritten(
  memory: PageMemory,
  tx: Tx,
  { school, undoes }: CopySpec,
  copy: StandingCopy,
  members: readonly string[],
) {
  const leaving = copy.members.filter((one) => !members.includes(one));
  if (!copy.begun || leaving.length === 0) return;
  const { doc, version } = await memory.open(tx, copy.id);
  const { title, written_at } = await tx
    .selectFrom('page')
    .select(['title', 'written_at'])
    .where('id', '=', copy.id)
    .executeTakeFirstOrThrow();
  if (undoes && (written_at === null || written_at < undoes)) return;
  for (const student of leaving) {
    // Once for what stands there now, however often the groups go back and forth.
    const id = createHash('md5').update(`${copy.id} ${student} ${version}`).digest('hex');
    const own = { id, title: `${title}, ${copy.group}`.slice(0, 300), unit: null, from: copy.id };
    await insertOwnPage(tx, { ...own, school, class: copy.class, student }, doc);
    await tx.updateTable('page').set({ away_at: null }).where('id', '=', id).execute();
  }
}

/** Who is of a group again has its page: what they took along and did not write on is put away. */
const putBesidesAway = (tx: Tx, copy: StandingCopy, members: readonly string[], at: Date) =>
  tx
    .updateTable('page')
    .set({ away_at: at })
    .where('kind', '=', 'own page')
    .where('from_id', '=', copy.id)
    .where('version', '=', 0)
    .where('away_at', 'is', null)
    .where(
      'student_id',
      '=',
      sql<string>`any(${members.filter((one) => !copy.members.includes(one))}::uuid[])`,
    )
    .execute();

const ids = (copies: readonly StandingCopy[]) => copies.map(({ id }) => id);
const among = (copies: readonly StandingCopy[]) =>
  sql<boolean>`page.id = any(${ids(copies)}::uuid[])`;

/** Does to an assignment's copies what a change says. What goes goes first, so that nobody ever has two. */
export async function carryOut(
  memory: PageMemory,
  tx: Tx,
  spec: CopySpec,
  change: CopyChange,
): Promise<void> {
  const { school, at } = spec;
  const set = (
    copies: readonly StandingCopy[],
    to: { replaced_at?: Date | null; away_at?: Date | null },
  ) => copies.length > 0 && tx.updateTable('page').set(to).where(among(copies)).execute();
  await set(change.keep, { replaced_at: at, away_at: null });
  await set(change.withdraw, { away_at: at });
  for (const { copy, class: to } of change.move)
    await tx.updateTable('page').set({ class_id: to }).where('id', '=', copy.id).execute();
  await set(change.back, { replaced_at: null, away_at: null });
  for (const { copy, members } of change.members) {
    await leaveWithWhatWasWritten(memory, tx, spec, copy, members);
    await putBesidesAway(tx, copy, members, at);
    await setMembers(tx, school, copy.id, members);
  }
  await makeCopies(memory, tx, spec, change.make);
}
