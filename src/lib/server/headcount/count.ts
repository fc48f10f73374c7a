import { sql, type RawBuilder } from 'kysely';
import type { CopyRow } from '$core/copy/copy-row';
import { headcount, type Headcount, type StandingCount } from '$core/headcount/headcount';
import { plannedCopies, type Receivers } from '$core/handout/plan';
import { HandOutSpec } from '$core/handout/spec';
import { grouped } from '$core/lists/grouped';
import { readWrittenThen } from '../copy/facts';
import { holdersAt } from '../copy/holders';
import {
  goneSince,
  hasCome,
  isEnrolled,
  isHandedOut,
  isNotReplaced,
  isPageThere,
  leftSince,
  meantUntil,
  type Moment,
} from '../db/as-of';
import type { Connection, PageOrigin } from '../page/page-store';

/** A counted assignment in one of the classes asked for. */
interface CountedAssignment extends Headcount {
  id: string;
  title: string;
  class: string;
}

/** What was handed out in classes, and stands there. */
async function readAssignments(
  db: Connection,
  classes: readonly string[],
  only: ReadonlySet<string> | undefined,
  at: Moment,
) {
  const rows = await db
    .selectFrom('assignment_class')
    .innerJoin('assignment', 'assignment.id', 'assignment_class.assignment_id')
    .select(['assignment.id', 'assignment.title', 'class_id', 'spec'])
    .select(meantUntil('assignment.id', at).$castTo<{ spec: unknown } | null>().as('meant'))
    .where('class_id', '=', sql<string>`any(${classes}::uuid[])`)
    .where(isHandedOut('assignment_class', at))
    .where(hasCome('handed_out_at', at))
    .orderBy('handed_out_at')
    .orderBy('assignment.id')
    .where('spec', 'is not', null)
    .$if(only !== undefined, (query) =>
      query.where('assignment.id', '=', sql<string>`any(${[...(only ?? [])]}::uuid[])`),
    )
    .execute();
  return rows.map(({ spec: newest, meant, ...row }) => {
    const spec = HandOutSpec.parse(meant?.spec ?? newest);
    return { ...row, title: meant ? spec.title : row.title, spec };
  });
}

/** Who gets what a spec means, for specs of many classes. @returns the classes of one of the specs */
async function readReceivers(
  db: Connection,
  specs: readonly HandOutSpec[],
  at: Moment,
): Promise<{ of: (spec: HandOutSpec) => Receivers[]; joined: Map<string, number> }> {
  const parts = specs.flatMap(({ classes }) => classes);
  const students = await db
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .select(['class_id', 'person.id', 'given', 'family', 'joined_at'])
    .where('class_id', '=', sql<string>`any(${parts.map((one) => one.class)}::uuid[])`)
    .where(isEnrolled('enrolment', at))
    .execute();
  const members = await db
    .selectFrom('grouping_group')
    .innerJoin('group_member', 'group_member.group_id', 'grouping_group.id')
    .select(['grouping_group.id', 'grouping_group.name', 'grouping_group.grouping_id', 'person_id'])
    .where(
      'grouping_group.grouping_id',
      '=',
      sql<string>`any(${parts.flatMap(({ grouping }) => grouping ?? [])}::uuid[])`,
    )
    .execute();
  const studentsOf = grouped(students, (row) => row.class_id);
  const membersOf = grouped(members, (row) => row.grouping_id);
  const groupsOf = (grouping: string | null) =>
    [...grouped(membersOf.get(grouping ?? '') ?? [], (row) => row.id).values()].map((group) => ({
      name: group[0]?.name ?? '',
      members: group.map(({ person_id }) => person_id),
    }));
  const of = ({ classes }: HandOutSpec) =>
    classes.map(({ class: id, grouping }) => ({
      id,
      name: '',
      students: (studentsOf.get(id) ?? []).map((one) => ({
        id: one.id,
        name: `${one.given} ${one.family}`,
      })),
      groups: groupsOf(grouping),
    }));
  const joined = new Map(
    students.map((one) => [`${one.class_id} ${one.id}`, one.joined_at.getTime()]),
  );
  return { of, joined };
}

/** Copies of a board as they stood at a moment. */
interface StoodThen {
  at: Date;
  copies: readonly CopyRow[];
}

type CountedRow = StandingCount & { assignment: string };

async function readCounted(db: Connection, assignments: readonly string[], then: StoodThen | null) {
  const at = then?.at ?? null;
  const millis = (of: RawBuilder<unknown>) => sql`floor(extract(epoch from ${of}) * 1000)::float8`;
  const { rows } = await sql<CountedRow & PageOrigin>`
    select page.id, assignment_id as assignment, class_id as class, for_id as for, source_id as source, delivery,
      version, source_id, source_version,
      student_id as student, coalesce(group_name, '') as "group", written_at is not null as begun,
      case when not ${isPageThere(at)} then 'withdrawn'
        when not ${isNotReplaced(at)} then 'kept' else 'current' end as standing,
      (select case when kind = 'gap accepted' then ${millis(sql`event.at`)} end from event
        where event.page_id = page.id and event.kind in ('gap accepted', 'gap opened') and ${hasCome('event.at', at)}
        order by event.id desc limit 1) as accepted,
      ${millis(goneSince(at))} as away, coalesce(words, 0) as words,
      (select ${millis(leftSince('gone', at))} from enrolment gone where gone.class_id = page.class_id
        and gone.person_id = page.student_id and not ${isEnrolled('gone', at)}) as left,
      ${hasOpenWork(at)} as "isOpen",
      ${holdersAt(at)} as members
    from page where assignment_id = any(${assignments}::uuid[]) and kind = 'copy' and ${hasCome('made_at', at)}`.execute(
    db,
  );
  const stood = new Map(then?.copies.map((copy) => [copy.id, copy]));
  // Those that stand on no board, too: what was removed then may have been brought back and written on since.
  const others = then ? rows.filter(({ id }) => !stood.has(id)) : [];
  const written = then ? await readWrittenThen(db, others, then.at) : null;
  return grouped(
    rows.map((row) => {
      const copy = stood.get(row.id);
      const work = copy ? { ...copy, written: copy.facts.written } : written?.get(row.id);
      if (!work) return row;
      const begun = work.written !== null;
      return { ...row, begun, words: work.words, isOpen: row.isOpen && begun };
    }),
    ({ assignment }) => assignment,
  );
}

/** Whether something is in a copy that was not given back since. To be selected with the table `page`. */
const hasOpenWork = (
  at: Moment,
) => sql`(page.written_at is not null and coalesce((select event.kind <> 'handed back'
  from event where event.page_id = page.id and event.kind in ('handed in', 'taken back', 'handed back')
    and ${hasCome('event.at', at)} order by event.id desc limit 1), true))`;

/** Who need not do which assignment: "assignment student". */
async function readExcused(
  db: Connection,
  assignments: readonly string[],
  at: Moment,
): Promise<ReadonlySet<string>> {
  const rows = await db
    .selectFrom('allowance')
    .distinctOn(['assignment_id', 'person_id'])
    .select(['assignment_id', 'person_id', 'kind'])
    .where('assignment_id', '=', sql<string>`any(${assignments}::uuid[])`)
    .where(hasCome('allowance.at', at))
    .orderBy('assignment_id')
    .orderBy('person_id')
    .orderBy('id', 'desc')
    .execute();
  return new Set(
    rows
      .filter(({ kind }) => kind === 'excused')
      .map(({ assignment_id, person_id }) => `${assignment_id} ${person_id}`),
  );
}

/**
 * The headcount of all that was handed out in classes, whose number does not change how many statements it takes.
 * @param only the assignments to be counted, if not all
 * @param then as it stood at a moment
 */
export async function countClasses(
  db: Connection,
  classes: readonly string[],
  only?: ReadonlySet<string>,
  then: StoodThen | null = null,
): Promise<CountedAssignment[]> {
  const at = then?.at ?? null;
  const here = only?.size === 0 ? [] : await readAssignments(db, classes, only, at);
  if (here.length === 0) return [];
  const ids = here.map(({ id }) => id);
  const receivers = await readReceivers(
    db,
    here.map(({ spec }) => spec),
    at,
  );
  const counted = await readCounted(db, ids, then);
  const excused = await readExcused(db, ids, at);
  return here.map(({ id, title, class_id, spec }) => {
    const standing = counted.get(id) ?? [];
    const theirs = receivers.of(spec);
    const present = new Set(theirs.flatMap(({ students }) => students.map((one) => one.id)));
    const { copies } = plannedCopies(spec, theirs, standing[0]?.for ?? '');
    const inClass = ({ class: of }: { class: string }) => of === class_id;
    const count = headcount({
      assignment: id,
      wanted: copies.filter(inClass),
      standing: standing.filter(inClass),
      present,
      excused: new Set([...present].filter((student) => excused.has(`${id} ${student}`))),
      joined: (student) => receivers.joined.get(`${class_id} ${student}`) ?? null,
    });
    return { id, title, class: class_id, ...count };
  });
}

/**
 * The assignments of classes in which somebody who is there may lack a copy. It finds too many rather than too few: the
 * headcount says.
 */
export async function mayLackCopies(
  db: Connection,
  classes: readonly string[],
): Promise<Set<string>> {
  const ids = sql`any(${classes}::uuid[])`;
  const standing = sql`page.class_id = ${ids} and page.kind = 'copy' and page.away_at is null
    and page.replaced_at is null`;
  // As sets: asked one by one, ten thousand pairs of a year's work take a third of a second.
  const { rows } = await sql<{ id: string }>`
    select distinct assignment_id as id from (
      select handed.assignment_id, handed.class_id, here.person_id from assignment_class handed
      join enrolment here on here.class_id = handed.class_id and here.left_at is null
      where handed.class_id = ${ids} and handed.withdrawn_at is null
      except (
        select assignment_id, class_id, student_id from page where ${standing}
        union all
        select assignment_id, class_id, person_id from page
        join page_member on page_member.page_id = page.id where ${standing})) lacking`.execute(db);
  return new Set(rows.map(({ id }) => id));
}
