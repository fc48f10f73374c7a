import { sql } from 'kysely';
import { reduceEvents, type CopyEvent } from '$core/copy/reduce';
import type { Loss } from '$core/headcount/level';
import type { CopyRow } from '$core/copy/copy-row';
import { pointsOf, type KeptScore } from '$core/marking/kept-score';
import type { Delivery } from '$core/handout/spec';
import { HOLDERS, pagesOf } from './holders';
import type { Connection } from '../page/page-store';

type Which =
  | { class: string }
  | { class: string; assignment: string }
  | { student: string }
  /** Of these classes: what is handed in, what lost its work, what is not begun and due between two times, and all of these. */
  | {
      desk: readonly string[];
      dueFrom: Date;
      dueTo: Date;
      also: readonly { assignment: string; class: string }[];
    }
  | { page: string };

interface Row {
  id: string;
  assignment_id: string;
  class_id: string;
  student_id: string | null;
  members: string[];
  group_name: string | null;
  delivery: Delivery;
  for_id: string;
  replaced_at: Date | null;
  mask: string | null;
  words: number;
  version: number;
  loss: Loss | null;
  most: string | null;
  given: ScoreRow | null;
  back: ScoreRow | null;
  written: Date | null;
  /** Kind, time in epoch milliseconds, person: in the order in which they happened. */
  events: [CopyEvent['kind'], number, string][] | null;
  due_at: Date | null;
  allowance: 'extension' | 'excused' | 'as for all' | null;
}

/** As JSON: numbers would be binary fractions, so points are texts. */
interface ScoreRow {
  id: string;
  /** Epoch milliseconds. */
  at: number;
  points: string | null;
  sum: string | null;
  most: string | null;
}
const SCORE = sql`jsonb_build_object('id', score.id::text, 'at', floor(extract(epoch from score.at) * 1000),
  'points', points::text, 'sum', rubric_points::text, 'most', rubric_most::text)`;

const keptScore = ({ points, sum, most }: ScoreRow): KeptScore => ({
  points,
  rubric: sum === null || most === null ? null : { points: sum, most },
});

const time = (at: Date | null) => at?.getTime() ?? null;

/** Somebody of the class has it: its student, or one of those who share it, is still there. */
const HAS_HOLDERS = sql`case when page.student_id is not null
  then exists (select from enrolment here where here.class_id = page.class_id
    and here.person_id = page.student_id and here.left_at is null)
  else exists (select from page_member join enrolment here
    on here.class_id = page.class_id and here.person_id = page_member.person_id
    where page_member.page_id = page.id and here.left_at is null) end`;

/** Of a class, and seen there: not withdrawn, not replaced, in somebody's hands. */
const IN_USE = sql`page.away_at is null and page.replaced_at is null and handed.withdrawn_at is null and ${HAS_HOLDERS}`;

function conditionOf(which: Which) {
  if ('page' in which) return sql`page.id = ${which.page}`;
  if ('student' in which)
    return sql`page.id = any(${pagesOf(which.student)}) and page.away_at is null and handed.withdrawn_at is null`;
  if ('class' in which)
    return sql`page.class_id = ${which.class} and ${IN_USE}
      ${'assignment' in which ? sql`and page.assignment_id = ${which.assignment}` : sql``}`;
  const { desk, dueFrom, dueTo, also } = which;
  return sql`page.class_id = any(${desk}::uuid[]) and ${IN_USE} and (page.with_teacher
    or (page.written_at is null and (handed.due_at between ${dueFrom} and ${dueTo}
      or exists (select from allowance where allowance.assignment_id = page.assignment_id
        and allowance.person_id = page.student_id and allowance.due_at between ${dueFrom} and ${dueTo})))
    or page.level -> 'loss' <> 'null'
    or (page.assignment_id, page.class_id) in (select * from unnest(
      ${also.map(({ assignment }) => assignment)}::uuid[], ${also.map((one) => one.class)}::uuid[])))`;
}

/**
 * Copies with the facts their states are computed from.
 * @param viewer whose looks count for "unread"
 */
export async function readCopies(db: Connection, which: Which, viewer: string): Promise<CopyRow[]> {
  const { rows } = await sql<Row>`
    with chosen as materialized (
      select page.id, handed.due_at from page
      join assignment_class handed
        on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
      where page.kind = 'copy' and ${conditionOf(which)})
    select page.id, page.assignment_id, page.class_id, page.student_id, page.version, page.group_name,
      page.delivery, page.for_id, page.replaced_at,
      ${HOLDERS} as members,
      coalesce(page.done_mask, repeat('0', jsonb_array_length(coalesce(begun.parts, '[]'::jsonb)))) as mask,
      coalesce(page.words, 0) as words, page.level -> 'loss' as loss, page.written_at as written,
      coalesce(allowed.due_at, chosen.due_at) as due_at, allowed.kind as allowance,
      assignment.points::text as most, given.score as given, back.score as back,
      happened.events
    from chosen join page using (id) join assignment on assignment.id = page.assignment_id
    left join snapshot begun on begun.page_id = page.source_id and begun.version = page.source_version
    left join lateral (
      select jsonb_agg(jsonb_build_array(kind, floor(extract(epoch from at) * 1000), person_id) order by id) as events
      from event where event.page_id = page.id) happened on true
    left join lateral (
      select kind, due_at from allowance
      where allowance.assignment_id = page.assignment_id and allowance.person_id = page.student_id
      order by id desc limit 1) allowed on true
    left join lateral (
      select ${SCORE} as score from score where score.page_id = page.id order by score.id desc limit 1) given on true
    left join lateral (
      select ${SCORE} as score from event join score on score.id = event.score_id
      where event.id = (
        select max(id) from event where event.page_id = page.id and kind = 'handed back')) back on true
    order by page.made_at, page.id`.execute(db);
  return rows.map((row) => {
    const happened = (row.events ?? []).map(([kind, at, person]) => ({ kind, at, person }));
    const { openers, ...handing } = reduceEvents(happened, viewer);
    const { most, given, back } = row;
    const isScored = given !== null && (given.points ?? given.sum) !== null;
    return {
      id: row.id,
      assignment: row.assignment_id,
      class: row.class_id,
      student: row.student_id,
      members: row.members,
      group: row.group_name ?? '',
      openers,
      delivery: row.delivery,
      for: row.for_id,
      replaced: row.replaced_at !== null,
      mask: row.mask ?? '',
      words: row.words,
      version: row.version,
      loss: row.loss,
      lossAccepted: happened.findLast(({ kind }) => kind === 'loss accepted')?.at ?? null,
      score: given?.id ?? null,
      points: given && pointsOf(keptScore(given), most),
      pointsBack: back && pointsOf(keptScore(back), most),
      facts: {
        ...handing,
        written: time(row.written),
        attached: null,
        scored: isScored ? given.at : null,
        due: time(row.due_at),
        allowance: row.allowance === 'as for all' ? null : row.allowance,
      },
    };
  });
}

export async function readCopy(db: Connection, page: string, viewer: string): Promise<CopyRow> {
  const [copy] = await readCopies(db, { page }, viewer);
  if (!copy) throw new Error(`no copy ${page}`);
  return copy;
}
