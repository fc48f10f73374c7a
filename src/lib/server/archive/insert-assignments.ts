import { sql } from 'kysely';
import { writeLocalTime } from '$core/calendar/local-time';
import { HandOutSpec } from '$core/handout/spec';
import type { Tx } from '../db/transaction';
import { idOf, readIds, rows, type Here } from './insert-rows';
import type { ArchivedClass } from './read-record';

/** What was asked for, as it is kept with an assignment. */
function specOf(
  one: ArchivedClass['assignments'][number],
  klass: string,
  ids: Record<string, Map<number, string>>,
  zone: string,
): HandOutSpec {
  const known = (name: string, numbers: readonly number[]) =>
    numbers.flatMap((n) => ids[name]?.get(n) ?? []);
  const maybe = (name: string, n: number | null) =>
    n === null ? null : (ids[name]?.get(n) ?? null);
  const { only, without, grouping, adapted } = one.meant;
  return HandOutSpec.parse({
    title: one.title.trim() || 'Untitled',
    instructions: one.instructions,
    form: one.form,
    originals:
      one.form === 'pages'
        ? one.originals.flatMap(({ page, delivery, instead_of }) =>
            instead_of === null ? known('page', [page]).map((id) => ({ page: id, delivery })) : [],
          )
        : [],
    classes: [
      { class: klass, unit: maybe('unit', one.unit), grouping: maybe('grouping', grouping) },
    ],
    due:
      one.due === null
        ? { kind: 'none' }
        : { kind: 'at', local: writeLocalTime(Date.parse(one.due), zone) },
    only: only && known('person', only),
    without: known('person', without),
    adapted: adapted.map(({ page, instead, students }) => ({
      page: known('page', [page])[0],
      instead: known('page', [instead])[0],
      students: known('person', students),
    })),
    points: one.points,
    rubric: maybe('rubric', one.rubric),
    category: one.category,
    guarded: one.guarded,
    reminder: one.reminder,
    late: one.late,
    handIn: one.hand_in,
    marking: one.marking,
  });
}

export async function insertAssignments(
  tx: Tx,
  assignments: ArchivedClass['assignments'],
  { school, class: klass }: Here,
): Promise<void> {
  const { time_zone: zone } = await tx
    .selectFrom('school')
    .select('time_zone')
    .where('id', '=', school)
    .executeTakeFirstOrThrow();
  const ids: Record<string, Map<number, string>> = {};
  for (const name of ['page', 'unit', 'grouping', 'rubric', 'person'])
    ids[name] = await readIds(tx, name);
  const all = assignments.map((one) => ({ ...one, spec: specOf(one, klass, ids, zone) }));
  await sql`insert into assignment (id, school_id, title, instructions, points, guarded, made_by, made_at, spec, category,
      rubric_id, form, late, hand_in, marking, reminder)
    select ${idOf('assignment', 'r.n')}, ${school}, title, instructions, points::numeric, guarded,
      ${idOf('person', 'r.by')}, at, spec, category, ${idOf('rubric', 'r.rubric')}, form, late,
      hand_in, marking, reminder
    from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, title text, instructions text, points text, guarded boolean,
      by int, at timestamptz, spec jsonb, category text, rubric int, form text, late text, hand_in text,
        marking text, reminder int)`.execute(tx);
  await sql`insert into assignment_class (assignment_id, school_id, class_id, unit_id, handed_out_at, due_at, withdrawn_at,
      changed_at, counting, own_scoring, classmates_named, feedback_waits)
    select ${idOf('assignment', 'r.n')}, ${school}, ${klass}, ${idOf('unit', 'r.unit')}, handed_out, due, withdrawn,
      changed, counting, own_scoring, classmates_named, feedback_waits
    from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, unit int, handed_out timestamptz, due timestamptz,
      withdrawn timestamptz, changed timestamptz, counting text, own_scoring boolean, classmates_named boolean,
      feedback_waits boolean)`.execute(tx);
  const each = <T extends object>(of: (one: (typeof all)[number]) => readonly T[]) =>
    rows(all.flatMap((one) => of(one).map((value) => ({ n: one.n, ...value }))));
  await sql`insert into assignment_original (assignment_id, school_id, page_id, version, delivery, instead_of)
    select ${idOf('assignment', 'r.n')}, ${school}, ${idOf('page', 'r.page')}, version, delivery,
      ${idOf('page', 'r.instead_of')}
    from jsonb_to_recordset(${each(({ originals }) => originals)}::jsonb)
      as r(n int, page int, version int, delivery text, instead_of int)`.execute(tx);
  const allowances = all.flatMap(({ n, allowances: theirs }) =>
    theirs.map((one) => ({ n, ...one })),
  );
  await sql`insert into allowance (school_id, assignment_id, person_id, kind, due_at, note, made_by, at)
    select ${school}, ${idOf('assignment', 'r.n')}, ${idOf('person', 'r.person')}, kind, due, note,
      ${idOf('person', 'r.by')}, at
    from jsonb_to_recordset(${rows(allowances.map((one, place) => ({ ...one, place })))}::jsonb)
      as r(n int, person int, kind text, due timestamptz, note text, by int, at timestamptz, place int)
    order by place`.execute(tx);
}
