import { sql, type RawBuilder } from 'kysely';
import { grouped } from '$core/lists/grouped';
import { literalOf, snippetOf, termsOf, type Snippet } from '$core/find/snippet';
import type { SignedIn } from '../access/session';
import { pagesOf } from '../copy/holders';
import { readUnseen } from '../copy/scores-apart';
import { COMMENT_SENT, COMMENT_STANDS } from '../copy/sent';
import { viewerOf } from '../copy/viewer';
import { CLASS_STATE, inCupboard, OPEN_CLASS } from '../access/class-state';
import type { Database } from '../db/connect';

export interface Found {
  kind: 'page' | 'copy' | 'note' | 'person' | 'assignment' | 'comment' | 'rubric' | 'code';
  title: string;
  /** Where it lies: the course, the class, the student. */
  place: string;
  snippet: Snippet;
  /** Where it leads. */
  to: string;
}

interface Row {
  kind: Found['kind'];
  id: string;
  title: string;
  body: string;
  place: string;
  to: string;
  rank: number;
}

/** Of each kind, and of all together. */
const MOST_OF_A_KIND = 8;
const MOST = 30;
/** With fewer hits than this, words that are nearly the same are looked for, too. */
const FEW = 3;

/** Of rows that fit, so many are weighed; who looks for a word that stands everywhere types another. */
const MOST_WEIGHED = 300;
/** Of a text so many characters come to be shown, from so many before the word on. */
const AROUND = 2_000;
const BEFORE = 500;

/** Finds things that a person may see, best first. */
export async function find(db: Database, person: SignedIn, query: string): Promise<Found[]> {
  const words = termsOf(query);
  const literal = literalOf(query);
  if (words.length === 0 && literal === null) return [];
  const first = literal ?? (words[0] ?? '').toLowerCase();
  // The last letters may be missing.
  const all = words.map((word) => `${word}:*`).join(' & ');
  const exact = await search(db, person, { words: all || null, literal, first });
  const isFew = exact.length < FEW && literal === null;
  const near = isFew
    ? await search(db, person, { words: await likened(db, words), literal: null, first })
    : [];
  const known = new Set(exact.map(({ kind, id }) => `${kind} ${id}`));
  return [...exact, ...near.filter(({ kind, id }) => !known.has(`${kind} ${id}`))]
    .slice(0, MOST)
    .map(({ kind, title, body, place, to }) => ({
      kind,
      title,
      place,
      to,
      snippet: snippetOf(body, query),
    }));
}

/** For each word, those that stand anywhere and are most like it (PostgreSQL's pg_trgm), as a text search query. */
async function likened(db: Database, words: readonly string[]): Promise<string> {
  const { rows } = await sql<{ word: string; like: string[] }>`
    select word, array(
      select near.word from find_word near where near.word % lower(unaccent(asked.word))
      group by near.word order by similarity(near.word, lower(unaccent(asked.word))) desc limit ${MOST_LIKENED}) as like
    from unnest(${words}::text[]) with ordinality asked(word, n) order by n`.execute(db);
  return rows
    .map(({ word, like }) =>
      [`${word}:*`, ...like.map((one) => `'${one.replace(/['\\]/g, '')}'`)].join(' | '),
    )
    .map((either) => `(${either})`)
    .join(' & ');
}
const MOST_LIKENED = 4;

interface Asked {
  /** A text search query; null for none. */
  words: string | null;
  /** What stands in the text as it was typed; null for nothing. */
  literal: string | null;
  /** What the excerpt is cut around, in lower case. */
  first: string;
}

async function search(
  db: Database,
  person: SignedIn,
  { words, literal, first }: Asked,
): Promise<Row[]> {
  // Of a long text only what stands around the first word that was looked for.
  const excerpt = sql`substr(entry.body, greatest(1, strpos(lower(entry.body), ${first}) - ${BEFORE}), ${AROUND})`;
  const asked = sql`to_tsquery('simple', lower(unaccent(${words ?? ''})))`;
  const fits = sql.join(
    [
      ...(words === null ? [] : [sql`words @@ ${asked}`]),
      ...(literal === null ? [] : [sql`strpos(lower(title || ' ' || body), ${literal}) > 0`]),
    ],
    sql` and `,
  );
  const parts = person.role === 'student' ? forStudent(person.id) : forStaff(person);
  const queries = parts.map(
    ({ kind, entry, columns, from, within, where }) => sql`(
      select ${sql.lit(kind)} as kind, entry.id, ${columns}, ${excerpt} as body, ts_rank(entry.words, ${asked}) as rank
      from (
        select id, title, body, words from find_entry
        where kind = ${sql.lit(entry)} and school_id = ${person.school_id} and ${fits} and ${within}
        limit ${MOST_WEIGHED}) entry
      ${from} where ${where}
      order by rank desc limit ${MOST_OF_A_KIND})`,
  );
  const { rows } = await sql<Row>`
    select * from (${sql.join(queries, sql` union all `)}) found order by rank desc`.execute(db);
  const unseen = await unseenComments(db, person, rows);
  return rows.filter(({ kind, id }) => kind !== 'comment' || !unseen.has(id));
}

/** Comments of the other who marks a copy apart from whoever looks: they are not found before they are seen. */
async function unseenComments(
  db: Database,
  person: SignedIn,
  rows: readonly Row[],
): Promise<ReadonlySet<string>> {
  const ids = rows.filter(({ kind }) => kind === 'comment').map(({ id }) => id);
  if (ids.length === 0) return new Set();
  const comments = await db
    .selectFrom('comment')
    .innerJoin('thread', 'thread.id', 'comment.thread_id')
    .select(['comment.id', 'comment.person_id', 'thread.made_by', 'thread.page_id'])
    .where('comment.id', 'in', ids)
    .execute();
  const unseen = new Set<string>();
  for (const [page, some] of grouped(comments, ({ page_id }) => page_id)) {
    const others = await readUnseen(db, page, viewerOf(person));
    for (const { id, person_id, made_by } of some)
      if (others.includes(person_id) || others.includes(made_by)) unseen.add(id);
  }
  return unseen;
}

interface Part {
  kind: Found['kind'];
  entry: Exclude<Found['kind'], 'copy'>;
  /** `title`, `place` and `to`. */
  columns: RawBuilder<unknown>;
  /** What else is read of those that fit. */
  from: RawBuilder<unknown>;
  /** Rights, as far as the entry itself tells them. */
  within: RawBuilder<unknown>;
  /** Rights that need more. */
  where: RawBuilder<unknown>;
}

const PAGE = sql`join page on page.id = entry.id::uuid`;
const CLASS = sql`join class on class.id = page.class_id join course on course.id = class.course_id`;
/** A student's, a group's, or the whole class's. */
const WHOSE = sql`concat_ws(', ', coalesce(person.given || ' ' || person.family, nullif(page.group_name, '')), class.name)`;
const CLASS_NAME = sql`class.name || ' ' || course.title`;

function forStaff({ id, role }: SignedIn): Part[] {
  const classes = sql`(select class_id from class_staff where person_id = ${id})`;
  const courses = sql`(select course_id from course_staff join course on course.id = course_id
    where person_id = ${id} and course.away_at is null)`;
  // Private notes are for those who write the course.
  const written = sql`(select course_id from course_staff where person_id = ${id} and may in ('own', 'write'))`;
  const people: Part = {
    kind: 'person',
    entry: 'person',
    columns: sql`entry.title, person.role as place,
      coalesce((select '/classes/' || class_id from enrolment
        where enrolment.person_id = person.id and left_at is null and class_id in ${classes} limit 1), '/school') as to`,
    from: sql`join person on person.id = entry.id::uuid`,
    within:
      role === 'office'
        ? sql`true`
        : sql`id in (select person_id::text from enrolment where class_id in ${classes})`,
    // Of an opened archive there are people whom the school does not know.
    where: role === 'office' ? sql`not person.name_only` : sql`true`,
  };
  if (role === 'office') return [people];
  return [
    people,
    {
      kind: 'page',
      entry: 'page',
      columns: sql`entry.title, course.title as place,
        case when (select may from course_staff where course_id = course.id and person_id = ${id}) = 'use'
          then '/read/' else '/editor/' end || page.id as to`,
      from: sql`${PAGE} join course on course.id = page.course_id`,
      within: sql`course_id in ${courses}`,
      where: sql`page.course_id in ${courses} and page.away_at is null`,
    },
    {
      kind: 'page',
      entry: 'page',
      columns: sql`entry.title, ${CLASS_NAME} as place, '/read/' || page.id as to`,
      from: sql`${PAGE} ${CLASS}`,
      within: sql`class_id in ${classes} and owner_id is null`,
      where: sql`page.kind = 'class page' and page.class_id in ${classes} and page.away_at is null`,
    },
    {
      kind: 'copy',
      entry: 'page',
      columns: sql`entry.title,
        ${WHOSE} as place,
        case when page.kind <> 'copy' then '/read/' || page.id
          when page.delivery = 'to read' then '/classes/' || page.class_id || '/assignments/' || page.assignment_id
          else '/classes/' || page.class_id || '/marking/' || page.id end as to`,
      from: sql`${PAGE} join class on class.id = page.class_id left join person on person.id = page.student_id`,
      within: sql`class_id in ${classes}`,
      where: sql`page.kind in ('copy', 'own page') and page.class_id in ${classes}`,
    },
    {
      kind: 'assignment',
      entry: 'assignment',
      columns: sql`entry.title, ${CLASS_NAME} as place, '/classes/' || class.id || '/assignments/' || entry.id as to`,
      from: sql`join assignment_class page on page.assignment_id = entry.id::uuid ${CLASS}`,
      within: sql`id in (select assignment_id::text from assignment_class where class_id in ${classes})`,
      where: sql`page.class_id in ${classes}`,
    },
    {
      kind: 'comment',
      entry: 'comment',
      columns: sql`page.title, ${WHOSE} as place,
        '/classes/' || page.class_id || '/marking/' || page.id as to`,
      from: sql`join comment on comment.id = entry.id::bigint join thread on thread.id = comment.thread_id
        join page on page.id = thread.page_id join class on class.id = page.class_id
        left join person on person.id = page.student_id`,
      within: sql`class_id in ${classes}`,
      where: sql`page.class_id in ${classes} and ${COMMENT_STANDS}`,
    },
    {
      kind: 'note',
      entry: 'note',
      columns: sql`coalesce(page.title, rubric.title, unit.title, course.title) as title, course.title as place,
        '/courses/' || course.id as to`,
      from: sql`join note on note.id = entry.id::uuid
        left join page on page.id = note.page_id left join unit on unit.id = note.unit_id
        left join rubric on rubric.id = note.rubric_id
        join course on course.id = coalesce(note.course_id, page.course_id, unit.course_id, rubric.course_id)`,
      within: sql`course_id in ${written}`,
      where: sql`note.settled_at is null and course.id in ${written}`,
    },
    {
      kind: 'rubric',
      entry: 'rubric',
      columns: sql`entry.title, course.title as place, '/courses/' || course.id || '/rubrics/' || rubric.id as to`,
      from: sql`join rubric on rubric.id = entry.id::uuid join course on course.id = rubric.course_id`,
      within: sql`course_id in ${courses}`,
      where: sql`rubric.course_id in ${courses} and rubric.away_at is null`,
    },
    {
      // Codes are the school's; each is looked at in a course, best in one that has it.
      kind: 'code',
      entry: 'code',
      columns: sql`entry.title, code_set.title as place, '/courses/' || seen.id || '/codes?code=' || code.id as to`,
      from: sql`join code on code.id = entry.id::uuid join code_set on code_set.id = code.set_id
        join lateral (select course.id from course where course.id in ${courses}
          order by exists (select from code_tag join page on page.id = code_tag.page_id
            where code_tag.code_id = code.id and page.course_id = course.id) desc, course.title, course.id limit 1) seen on true`,
      within: sql`true`,
      where: sql`code.away_at is null and code_set.away_at is null`,
    },
  ];
}

function forStudent(id: string): Part[] {
  const classes = sql`(select enrolment.class_id from enrolment join class on class.id = enrolment.class_id
    where person_id = ${id} and left_at is null and ${OPEN_CLASS})`;
  const mine = pagesOf(id);
  // What was withdrawn is not found, nor that it exists.
  const own = sql`page.id = any(${mine}) and ${CLASS_STATE} in ('open', 'to read') and page.away_at is null
    and not exists (select from assignment_class handed where handed.assignment_id = page.assignment_id
      and handed.class_id = page.class_id and (handed.withdrawn_at is not null or ${inCupboard('handed.unit_id')}))`;
  return [
    {
      kind: 'page',
      entry: 'page',
      columns: sql`entry.title, ${CLASS_NAME} as place, '/read/' || page.id as to`,
      from: sql`${PAGE} ${CLASS}`,
      within: sql`class_id in ${classes} and owner_id is null`,
      where: sql`page.kind = 'class page' and page.area in ('shelf', 'worktable', 'welcome')
        and page.class_id in ${classes} and page.away_at is null and not ${inCupboard('page.unit_id')}`,
    },
    {
      kind: 'copy',
      entry: 'page',
      columns: sql`entry.title, ${CLASS_NAME} as place,
        case page.kind when 'copy' then '/work/' else '/read/' end || page.id as to`,
      from: sql`${PAGE} ${CLASS}`,
      within: sql`(owner_id = ${id} or id in (select page_id::text from page_member where person_id = ${id}))`,
      where: sql`page.kind in ('copy', 'own page') and ${own}`,
    },
    {
      kind: 'assignment',
      entry: 'assignment',
      columns: sql`entry.title, ${CLASS_NAME} as place, '/work/' || page.id as to`,
      from: sql`join page on page.assignment_id = entry.id::uuid ${CLASS}`,
      within: sql`id in (select assignment_id::text from page where id = any(${mine}))`,
      where: own,
    },
    {
      kind: 'comment',
      entry: 'comment',
      columns: sql`page.title, ${CLASS_NAME} as place, '/work/' || page.id as to`,
      from: sql`join comment on comment.id = entry.id::bigint join thread on thread.id = comment.thread_id
        join page on page.id = thread.page_id ${CLASS}`,
      within: sql`(owner_id = ${id} or (owner_id is null and class_id in ${classes}))`,
      where: sql`${own} and ${COMMENT_SENT}`,
    },
    {
      kind: 'person',
      entry: 'person',
      columns: sql`coalesce(nullif(person.called, ''), entry.title) as title, 'teacher' as place,
        '/classes/' || staff.class_id || '/plan' as to`,
      from: sql`join person on person.id = entry.id::uuid join class_staff staff on staff.person_id = person.id`,
      within: sql`id in (select person_id::text from class_staff where class_id in ${classes})`,
      where: sql`staff.class_id in ${classes}`,
    },
  ];
}
