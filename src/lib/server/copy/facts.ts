import { sql, type RawBuilder } from 'kysely';
import { attachedLast, wholeMask, type Attached } from '$core/attached/attached';
import { reduceEvents, reduceForEach, type CopyEvent } from '$core/copy/reduce';
import type { Loss } from '$core/headcount/level';
import type { CopyRow } from '$core/copy/copy-row';
import { pointsOf, type KeptScore } from '$core/marking/kept-score';
import type { Delivery, HandOutSpec } from '$core/handout/spec';
import { inCupboard } from '../access/class-state';
import {
  dueThen,
  hasCome,
  isEnrolled,
  isHandedOut,
  isNotReplaced,
  isPageThere,
  meantUntil,
  type Moment,
} from '../db/as-of';
import { ATTACHED, keptOf } from '../attached/attached-rows';
import { holdersAt, pagesOf } from './holders';
import { ownDue } from './own-due';
import { loggedJson, readHistories, type Connection, type PageOrigin } from '../page/page-store';
import { followSteps } from '$core/headcount/level-of-steps';
import { countWords, doneMask, partsOf, textOf } from '$core/page/parts';

/** An assignment in one of its classes. */
interface InClass {
  assignment: string;
  class: string;
}

type Which =
  | { class: string }
  /** With what was replaced by something else. */
  | { class: string; replacedToo: true }
  | { class: string; assignment: string }
  | { assignments: readonly InClass[] }
  | { student: string }
  /** What a student sees: not what lies in the cupboard. */
  | { seenBy: string }
  /** Of these classes: what is handed in, what lost its work, what is not begun and due between two times, and all of these. */
  | {
      desk: readonly string[];
      dueFrom: Date;
      dueTo: Date;
      also: readonly InClass[];
    }
  | { page: string };

/** What was written on a copy. */
interface Work {
  version: number;
  /** Null before the first change. */
  mask: string | null;
  words: number;
  loss: Loss | null;
  /** When its students last changed it. */
  written: Date | null;
}

interface Row extends Work {
  id: string;
  assignment_id: string;
  class_id: string;
  student_id: string | null;
  members: string[];
  group_name: string | null;
  delivery: Delivery;
  for_id: string;
  replaced: boolean;
  blank: string;
  source_id: string | null;
  source_version: number | null;
  most: string | null;
  hand_in: HandOutSpec['handIn'];
  events: string | null;
  scores: string | null;
  attached: Attached[] | null;
  due_at: Date | null;
  allowance: 'extension' | 'excused' | 'as for all' | null;
}

/**
 * Rows of facts are found by a list of copies: joined, the planner reads those of the whole school. They come as one text a
 * copy, in order: a class has thousands, and so many rows take longer to pass on than to find. Instants are whole microseconds.
 */
const INSTANT = (at: string) => sql.raw(`(date_part('epoch', ${at}) * 1000000)::bigint`);
const EVENTS = sql`string_agg(concat_ws(' ', ${INSTANT('event.at')}, person_id, coalesce(score_id::text, '-'), event.kind),
  ',' order by event.id)`;
const SCORES = sql`string_agg(concat_ws(' ', score.id, ${INSTANT('score.at')}, coalesce(points::text, '-'),
  coalesce(rubric_points::text, '-'), coalesce(rubric_most::text, '-')), ',' order by score.id)`;

const millis = (micros = '0') => Math.floor(Number(micros) / 1000);
const maybe = (text: string | undefined) => (text === undefined || text === '-' ? null : text);

interface HappenedEvent extends CopyEvent {
  /** The score that it was handed back with: an id. */
  score: string | null;
}
const readEvents = (text: string | null): HappenedEvent[] =>
  (text?.split(',') ?? []).map((line) => {
    const [at, person = '', score, ...kind] = line.split(' ');
    // What an event can be says the table.
    return {
      at: millis(at),
      person,
      score: maybe(score),
      kind: kind.join(' ') as CopyEvent['kind'],
    };
  });

const readScores = (text: string | null) =>
  (text?.split(',') ?? []).map((line) => {
    const [id = '', at, points, sum, most] = line.split(' ');
    const [of, from] = [maybe(sum), maybe(most)];
    const kept: KeptScore = {
      points: maybe(points),
      rubric: of === null || from === null ? null : { points: of, most: from },
    };
    return { id, at: millis(at), kept };
  });

const time = (at: Date | null) => at?.getTime() ?? null;

/**
 * Somebody of the class has it: its student, or one of those who share it, is still there.
 * @param classes all that are asked for: without them the planner reads those enrolled in the whole school
 */
const hasHolders = (
  classes: readonly string[],
  at: Moment,
) => sql`case when page.student_id is not null
  then exists (select from enrolment here where here.class_id = any(${classes}::uuid[])
    and here.class_id = page.class_id and here.person_id = page.student_id and ${isEnrolled('here', at)})
  else exists (select from page_member join enrolment here
    on here.class_id = page.class_id and here.person_id = page_member.person_id
    where page_member.page_id = page.id and ${isEnrolled('here', at)}) end`;

/** Of these classes, and seen there: not withdrawn, not replaced, in somebody's hands. */
const inUse = (classes: readonly string[]) => sql`page.class_id = any(${classes}::uuid[])
  and page.away_at is null and page.replaced_at is null and handed.withdrawn_at is null
  and ${hasHolders(classes, null)}`;

const isOneOf = (some: readonly InClass[]) =>
  sql`(page.assignment_id, page.class_id) in (select * from unnest(
    ${some.map(({ assignment }) => assignment)}::uuid[], ${some.map((one) => one.class)}::uuid[]))`;

function conditionOf(which: Which, at: Moment): RawBuilder<unknown> {
  if ('page' in which) return sql`page.id = ${which.page}`;
  if ('seenBy' in which)
    return sql`${conditionOf({ student: which.seenBy }, at)} and not ${inCupboard('handed.unit_id')}`;
  if ('student' in which)
    return sql`page.id = any(${pagesOf(which.student)}) and page.away_at is null and handed.withdrawn_at is null`;
  if ('replacedToo' in which)
    return sql`page.class_id = ${which.class} and ${hasCome('page.made_at', at)} and ${isPageThere(at)}
      and ${isHandedOut('handed', at)} and ${hasHolders([which.class], at)}`;
  if ('class' in which)
    return sql`${inUse([which.class])} ${'assignment' in which ? sql`and page.assignment_id = ${which.assignment}` : sql``}`;
  if ('assignments' in which) {
    const classes = which.assignments.map((one) => one.class);
    return sql`${isOneOf(which.assignments)} and ${inUse(classes)}`;
  }
  const { desk, dueFrom, dueTo, also } = which;
  return sql`${inUse(desk)} and (page.with_teacher
    or (page.written_at is null and (handed.due_at between ${dueFrom} and ${dueTo}
      or exists (select from allowance where allowance.assignment_id = page.assignment_id
        and allowance.person_id = page.student_id and allowance.due_at between ${dueFrom} and ${dueTo})))
    or page.level -> 'loss' <> 'null'
    or exists (select from attachment where attachment.page_id = page.id and attachment.away_at is null)
    or ${isOneOf(also)})`;
}

/**
 * Copies with the facts their states are computed from.
 * @param viewer whose looks count for "unread"
 * @param at as they stood then: for all copies of a class
 */
export async function readCopies(
  db: Connection,
  which: Which,
  viewer: string,
  at: Moment = null,
): Promise<CopyRow[]> {
  const { rows } = await sql<Row>`
    with chosen as materialized (
      select page.*, ${dueThen('handed', at)} as due_at, handed.handed_out_at,
        ${meantUntil('handed.assignment_id', at)} as meant from page
      join assignment_class handed
        on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
      where page.kind = 'copy' and ${conditionOf(which, at)}),
    happened as (select page_id, ${EVENTS} as events from event
      where page_id = any(array(select id from chosen)) and ${hasCome('event.at', at)} group by page_id),
    given as (select page_id, ${SCORES} as scores from score
      where page_id = any(array(select id from chosen)) and ${hasCome('score.at', at)} group by page_id),
    brought as (select attachment.page_id, ${ATTACHED} as attached from attachment
      left join upload on upload.id = attachment.upload_id ${keptOf(at)}
      where attachment.page_id = any(array(select id from chosen)) and ${hasCome('attachment.at', at)}
        and (attachment.away_at is null ${at ? sql`or attachment.away_at > ${at}` : sql``}) group by attachment.page_id),
    allowed as (select distinct on (assignment_id, person_id) assignment_id, person_id, kind, due_at from allowance
      where assignment_id in (select assignment_id from chosen) and ${hasCome('allowance.at', at)}
      order by assignment_id, person_id, id desc)
    select page.id, page.assignment_id, page.class_id, page.student_id, page.version, page.group_name,
      page.delivery, page.for_id, not ${isNotReplaced(at)} as replaced,
      ${holdersAt(at)} as members,
      repeat('0', jsonb_array_length(coalesce(begun.parts, '[]'::jsonb))) as blank, page.done_mask as mask,
      coalesce(page.words, 0) as words, page.level -> 'loss' as loss, page.written_at as written,
      page.source_id, page.source_version,
      ${ownDue('allowed', 'page')} as due_at, allowed.kind as allowance,
      case when page.meant is null then assignment.points::text else page.meant -> 'spec' ->> 'points' end as most,
      coalesce(page.meant -> 'spec' ->> 'handIn', assignment.hand_in) as hand_in, happened.events, given.scores,
      brought.attached
    from chosen page
    join assignment on assignment.id = page.assignment_id
    left join snapshot begun on begun.page_id = page.source_id and begun.version = page.source_version
    left join happened on happened.page_id = page.id
    left join given on given.page_id = page.id
    left join brought on brought.page_id = page.id
    left join allowed on allowed.assignment_id = page.assignment_id and allowed.person_id = page.student_id
    order by page.made_at, page.id`.execute(db);
  const then = at ? await readWrittenThen(db, rows, at) : null;
  return rows.map((row) => {
    const happened = readEvents(row.events);
    const scores = readScores(row.scores);
    const { openers, ...handing } = reduceEvents(happened, viewer);
    const given = scores.at(-1) ?? null;
    const scoreBack = happened.findLast(({ kind }) => kind === 'handed back')?.score ?? null;
    const back = scores.find(({ id }) => id === scoreBack) ?? null;
    const work = then?.get(row.id) ?? row;
    const isScored = given !== null && (given.kept.points ?? given.kept.rubric) !== null;
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
      replaced: row.replaced,
      mask: wholeMask(work.mask ?? row.blank, row.attached ?? []),
      words: work.words,
      version: work.version,
      loss: work.loss,
      attached: row.attached ?? [],
      score: given?.id ?? null,
      points: given && pointsOf(given.kept, row.most),
      pointsBack: back && pointsOf(back.kept, row.most),
      each:
        row.hand_in === 'each' && row.delivery === 'one for all' && row.student_id === null
          ? reduceForEach(happened, row.members)
          : null,
      facts: {
        ...handing,
        written: time(work.written),
        attached: attachedLast(row.attached ?? []),
        scored: isScored ? given.at : null,
        due: time(row.due_at),
        allowance: row.allowance === 'as for all' ? null : row.allowance,
      },
    };
  });
}

/**
 * What was written on copies until a moment, by their ids; those that nobody changed since are left out. Of those that were
 * being written the page is made again from its log.
 */
export async function readWrittenThen(
  db: Connection,
  copies: readonly PageOrigin[],
  at: Date,
): Promise<ReadonlyMap<string, Work>> {
  const { rows } = await sql<{ id: string; begun: boolean; students: string[] }>`
    select page.id, min(begun_at) <= ${at} as begun,
      array_remove(array[page.student_id], null) || array(select person_id from page_member where page_id = page.id) as students
    from page join sitting on sitting.page_id = page.id where page.id = any(${copies.map(({ id }) => id)}::uuid[])
    group by page.id having max(ended_at) > ${at}`.execute(db);
  const changed = new Map(rows.map((row) => [row.id, row]));
  const histories = await readHistories(
    db,
    copies.filter(({ id }) => changed.get(id)?.begun),
    at,
  );
  const untouched: Work = { version: 0, mask: null, words: 0, loss: null, written: null };
  return new Map(
    rows.map(({ id, students }) => {
      const history = histories.get(id);
      const last = history?.steps.at(-1);
      if (!history || !last) return [id, untouched];
      const { page, level } = followSteps(history.start, history.steps.map(loggedJson));
      const own = history.steps.findLast(({ author_id }) => students.includes(author_id));
      return [
        id,
        {
          version: last.version,
          mask: doneMask(partsOf(page)),
          words: countWords(textOf(page)),
          loss: level?.loss ?? null,
          written: own?.at ?? null,
        },
      ];
    }),
  );
}

export async function readCopy(db: Connection, page: string, viewer: string): Promise<CopyRow> {
  const [copy] = await readCopies(db, { page }, viewer);
  if (!copy) throw new Error(`no copy ${page}`);
  return copy;
}
