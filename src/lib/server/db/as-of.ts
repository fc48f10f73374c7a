import { sql, type RawBuilder } from 'kysely';
import { HandOutSpec } from '$core/handout/spec';
import type { AbsenceKind } from './schema';

/** A moment that is looked back to; null for now. */
export type Moment = Date | null;

/** Whether something had gone by then, and came back later. `of` and `within`: columns with what `absence` calls it. */
const wasAway = (kind: AbsenceKind, of: string, within: string, at: Date) =>
  sql`exists (select from absence where absence.kind = ${kind} and absence.of_id = ${sql.ref(of)}
    and absence.in_id = ${sql.ref(within)} and absence.from_at <= ${at} and absence.to_at > ${at})`;

/** @param goes a column that says since when it is gone */
function isThere(goes: string, at: Moment, [kind, of, within]: [AbsenceKind, string, string]) {
  const column = sql.ref(goes);
  return at
    ? sql<boolean>`((${column} is null or ${column} > ${at}) and not ${wasAway(kind, of, within, at)})`
    : sql<boolean>`${column} is null`;
}

/** @param goes a column that says since when it is gone */
function awaySince(goes: string, at: Moment, [kind, of, within]: [AbsenceKind, string, string]) {
  const column = sql.ref(goes);
  return at
    ? sql<Date | null>`coalesce((select from_at from absence where kind = ${kind} and of_id = ${sql.ref(of)}
        and in_id = ${sql.ref(within)} and from_at <= ${at} and to_at > ${at} limit 1), ${column})`
    : sql<Date | null>`${column}`;
}

/** A page is there: it was not removed. To be selected with the table `page`. */
export const isPageThere = (at: Moment): RawBuilder<boolean> =>
  isThere('page.away_at', at, ['removed', 'page.id', 'page.id']);
/** Since when a page is gone, or was then. To be selected with the table `page`. */
export const goneSince = (at: Moment): RawBuilder<Date | null> =>
  awaySince('page.away_at', at, ['removed', 'page.id', 'page.id']);
/** A copy stands, and nothing else was given for it. To be selected with the table `page`. */
export const isNotReplaced = (at: Moment): RawBuilder<boolean> =>
  isThere('page.replaced_at', at, ['replaced', 'page.id', 'page.id']);
/** What was handed out in a class is not withdrawn. `handed`: an `assignment_class`. */
export const isHandedOut = (handed: string, at: Moment): RawBuilder<boolean> =>
  isThere(`${handed}.withdrawn_at`, at, [
    'withdrawn',
    `${handed}.assignment_id`,
    `${handed}.class_id`,
  ]);

/** What comes at some time has come. `comes`: a column with that time. */
export const hasCome = (comes: string, at: Moment): RawBuilder<boolean> =>
  at ? sql<boolean>`${sql.ref(comes)} <= ${at}` : sql<boolean>`true`;

/** Somebody is in a class. `here`: an `enrolment`. */
export const isEnrolled = (here: string, at: Moment): RawBuilder<boolean> =>
  sql<boolean>`(${isThere(`${here}.left_at`, at, ['left', `${here}.person_id`, `${here}.class_id`])}
    and ${hasCome(`${here}.joined_at`, at)})`;

/** Since when somebody is out of a class, or was then. `here`: an `enrolment`. */
export const leftSince = (here: string, at: Moment): RawBuilder<Date | null> =>
  awaySince(`${here}.left_at`, at, ['left', `${here}.person_id`, `${here}.class_id`]);

/**
 * How an assignment was meant until it was changed for the first time after a moment; null where it was not. `assignment`: a
 * column with its id. To be selected as jsonb: its `spec`, and `due` by class in epoch milliseconds.
 */
export const meantUntil = (assignment: string, at: Moment): RawBuilder<unknown> =>
  at
    ? sql`(select change.was from assignment_change change where change.assignment_id = ${sql.ref(assignment)}
        and change.made_at > ${at} order by change.made_at, change.id limit 1)`
    : sql`null::jsonb`;

/** The due time for all of a class as it was: `handed` is an `assignment_class`. */
export const dueThen = (handed: string, at: Moment): RawBuilder<Date | null> => {
  const due = sql.ref(`${handed}.due_at`);
  if (!at) return sql<Date | null>`${due}`;
  const until = meantUntil(`${handed}.assignment_id`, at);
  return sql<Date | null>`(select case when meant.was is null then ${due}
    else to_timestamp((meant.was -> 'due' ->> ${sql.ref(`${handed}.class_id`)}::text)::float8 / 1000) end
    from (select ${until} as was) meant)`;
};

/** What an assignment was called, and counted for, where it was changed since; points are written as a row has them. */
export function namedThen<T extends object>(row: T, meant: { spec: unknown } | null) {
  if (!meant) return row;
  const { title, category, points } = HandOutSpec.parse(meant.spec);
  const named = { ...row, title, points: points && Number(points).toFixed(2) };
  return 'category' in row ? { ...named, category } : named;
}
