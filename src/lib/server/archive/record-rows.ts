import { sql, type RawBuilder } from 'kysely';
import type { RecordFile } from '$core/archive/record';
import type { Tx } from '../db/transaction';
import { COMMENT_SENT } from '../copy/sent';
import { NOTES, officeOf, OWN_SCORING, staffOf, type Archived } from './numbers';
import { STAMP_HASH } from './stamp-pictures';

/**
 * What stands in the files of `record/`, as PostgreSQL writes it: JSON whose texts never pass through this process one by
 * one. The shape of each is that of `core/archive/record.ts`.
 */

/** A number of `archived_…`; null where the archive does not hold it. */
const numberOf = (table: string, id: string): RawBuilder<unknown> =>
  sql`(select n from ${sql.table(`archived_${table}`)} numbered where numbered.id = ${sql.ref(id)})`;
const list = (rows: RawBuilder<unknown>): RawBuilder<unknown> =>
  sql`coalesce((select json_agg(item) from (${rows}) items(item)), '[]')`;

/** A page of a student's, in an archive of theirs; the others are what these began as. */
const THEIRS = sql`page.kind in ('copy', 'own page')`;
/** Of how such a page was written a student's archive holds nothing: it is there in the versions that copies began as. */
const only = (student: string | null) =>
  student === null
    ? sql``
    : sql`and exists (select from page whole where whole.id = page.id and whole.kind in ('copy', 'own page'))`;

/** Who was to mark a copy, and to score it, of the class’s own archive. */
const DEALT = sql`'markers', ${list(sql`select person.n from marker join archived_person person on person.id = marker.person_id
      where marker.page_id = page.id order by person.n`)},
  'readers', ${list(sql`select json_build_object('page', by_page.n, 'version', reading.version)
      from reading join archived_page by_page on by_page.id = reading.by_page_id
      where reading.page_id = page.id order by by_page.n`)},
  'withheld', ${list(sql`select by_page.n from withheld_scoring held join archived_page by_page on by_page.id = held.by_page_id
      where held.page_id = page.id order by by_page.n`)}`;
const NOTHING_DEALT = sql`'markers', '[]'::json, 'readers', '[]'::json, 'withheld', '[]'::json`;

/** The versions of `page` that copies of an archive began as, or that were handed out. */
export const VERSIONS = sql`select copy.source_version as version from page copy
    join archived_page numbered on numbered.id = copy.id where copy.source_id = page.id and copy.source_version is not null
  union select original.version from assignment_original original
    join archived_assignment numbered on numbered.id = original.assignment_id where original.page_id = page.id`;

/** A scoring whose rubric has its number here. */
const SCORING = sql`case when jsonb_typeof(scoring) = 'object' then jsonb_set(scoring, '{rubric,id}',
  to_jsonb(coalesce((select rubric.n from archived_rubric rubric
    where rubric.id::text = scoring #>> '{rubric,id}'), 0)::text)) end`;

/** Files that are written line by line, for the pages with the numbers from `first` to `last`. */
type Lines = (first: number, last: number, archived: Archived) => RawBuilder<{ line: string }>;

const LINES = {
  'pages.ndjson': (first, last, { class: klass, student }) => sql`
    select json_build_object('n', numbered.n,
      'kind', case when page.kind = 'class page' and page.class_id <> ${klass} then 'original' else page.kind end,
      'title', page.title, 'unit', ${numberOf('unit', 'page.unit_id')}, 'place', page.place,
      'area', case when page.class_id = ${klass} then page.area end,
      'from', ${numberOf('page', 'page.from_id')},
      'from_version', case when ${numberOf('page', 'page.from_id')} is not null then page.from_version end,
      'adapted', page.adapted and ${student === null}, 'away', page.away_at, 'replaced', page.replaced_at, 'folio', page.folio,
      'for', ${numberOf('page', 'page.for_id')}, 'delivery', page.delivery, 'group', page.group_name,
      'source', ${numberOf('page', 'page.source_id')}, 'source_version', page.source_version,
      'assignment', ${numberOf('assignment', 'page.assignment_id')}, 'student', ${numberOf('person', 'page.student_id')},
      'members', ${list(sql`select member.n from page_member join archived_person member on member.id = page_member.person_id
        where page_member.page_id = page.id order by member.n`)},
      'guarded', page.guarded, 'version', ${student === null ? sql`page.version` : sql`case when ${THEIRS} then page.version else (select max(version) from (${VERSIONS}) begun) end`}, 'seen_from', page.seen_from,
      'done_mask', page.done_mask, 'words', page.words, 'level', ${student === null ? sql`page.level` : sql`null::json`}, 'written', page.written_at,
      'with_teacher', page.with_teacher, 'made', page.made_at,
      'pictures', ${list(sql`select hash from picture_place where picture_place.page_id = page.id order by hash`)},
      'keys', ${
        student === null
          ? list(sql`select json_build_object('part', part_id, 'body', body) from answer_key
              where answer_key.page_id = page.id order by part_id`)
          : sql`'[]'::json`
      },
      ${student === null ? DEALT : NOTHING_DEALT})::text as line
    from archived_page numbered join page on page.id = numbered.id
    where numbered.n between ${first} and ${last} order by numbered.n`,
  'snapshots.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'version', snapshot.version, 'at', snapshot.at, 'doc', doc,
      'authorship', coalesce((select json_agg(json_build_object('from', run -> 'from', 'to', run -> 'to',
          'author', author.n, 'first', run -> 'first', 'last', run -> 'last') order by place)
        from jsonb_array_elements(case when jsonb_typeof(authorship) = 'array' then authorship else '[]' end)
          with ordinality runs(run, place) join archived_person author on author.id = (run ->> 'author')::uuid), '[]'),
      'parts', parts)::text as line
    from archived_page page join snapshot on snapshot.page_id = page.id
    where page.n between ${first} and ${last} ${only(student)} order by page.n, snapshot.version`,
  'steps.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'version', step.version, 'by', author.n, 'at', step.at,
      'client', client, 'no', client_no, 'body', body)::text as line
    from archived_page page join page as whole using (id)
    cross join lateral logged_steps(page.id, 0, whole.version) as step
    join archived_person author on author.id = step.author_id
    where page.n between ${first} and ${last} ${only(student)} order by page.n, step.version`,
  'set-aside.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'client', words.client, 'no', words.client_no, 'by', author.n,
      'at', words.at, 'base', base_version, 'body', body, 'words', words, 'settled', settled.at)::text as line
    from archived_page page join set_aside words on words.page_id = page.id
    join archived_person author on author.id = words.author_id
    left join set_aside_settled settled on (settled.page_id, settled.client, settled.client_no) =
      (words.page_id, words.client, words.client_no)
    where page.n between ${first} and ${last} ${student === null ? sql`` : sql`and words.author_id = ${student}`}
    order by page.n, words.at, words.client, words.client_no`,
  'scorings.ndjson': (first, last) => sql`
    select json_build_object('n', numbered.n, 'page', page.n, 'by', scorer.n, 'at', score.at,
      'points', points::text, 'scoring', ${SCORING}, 'checked', checked, 'rubric_points', rubric_points::text, 'rubric_most', rubric_most::text, 'version', score.version,
      'why', why)::text as line
    from archived_page page join score on score.page_id = page.id join archived_score numbered on numbered.id = score.id
    join archived_person scorer on scorer.id = score.person_id
    where page.n between ${first} and ${last} order by page.n, numbered.n`,
  'scorings-apart.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'by', scorer.n, 'at', apart.at, 'points', points::text,
      'scoring', ${SCORING}, 'checked', checked, 'rubric_points', rubric_points::text, 'rubric_most', rubric_most::text,
      'version', apart.version)::text as line
    from archived_page page join score_apart apart on apart.page_id = page.id
    join archived_person scorer on scorer.id = apart.person_id
    where page.n between ${first} and ${last} and ${student === null} order by page.n, apart.id`,
  'student-scorings.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'by_page', ${numberOf('page', 'given.by_page_id')}, 'by', scorer.n,
      'at', given.at, 'version', given.version, 'scoring', ${SCORING})::text as line
    from archived_page page join student_scoring given on given.page_id = page.id
    join archived_person scorer on scorer.id = given.person_id
    where page.n between ${first} and ${last} and ${student === null ? sql`true` : OWN_SCORING}
    order by page.n, given.id`,
  'events.ndjson': (first, last, { student }) => sql`
    select json_build_object('page', page.n, 'by', person.n, 'at', event.at, 'kind', event.kind, 'version', event.version,
      'of_version', of_version, 'scoring', ${numberOf('score', 'event.score_id')}, 'note', note)::text as line
    from archived_page page join event on event.page_id = page.id join archived_person person on person.id = event.person_id
    where page.n between ${first} and ${last} ${
      student === null
        ? sql``
        : sql`and event.kind not in ('looked', 'gap accepted', 'gap opened')
      and (event.kind not in ('said done', 'took done back') or event.person_id = ${student})`
    }
    order by page.n, event.id`,
  'threads.ndjson': (first, last, { student }) => sql`
    select json_build_object('n', numbered.n, 'page', page.n, 'by', person.n, 'at', thread.made_at, 'quote', quote,
      'staff_only', staff_only, 'made_version', made_version, 'made_from', made_from, 'made_to', made_to, 'at_from', at_from, 'at_to', at_to,
      'on', case when spot is not null then ${numberOf('attachment', 'thread.attachment_id')} end,
      'criterion', thread.criterion, 'stamp', case when thread.stamp ->> 'kind' = 'own' then json_build_object('kind', 'own',
        'picture', (select ${STAMP_HASH} from stamp where stamp.id = (thread.stamp ->> 'id')::uuid)) else thread.stamp::json end,
      'spot', case when ${numberOf('attachment', 'thread.attachment_id')} is not null then spot end,
      'comments', ${list(sql`select json_build_object('by', said.n, 'at', comment.at, 'kind', comment.kind,
          'text', comment.text, 'kept_back', comment.kept_back,
          'withdrawn', (select gone.at from comment_withdrawal gone where gone.comment_id = comment.id))
        from comment join archived_person said on said.id = comment.person_id
        where comment.thread_id = thread.id ${student === null ? sql`` : sql`and ${COMMENT_SENT}`} order by comment.id`)})::text as line
    from archived_page page join thread on thread.page_id = page.id join archived_thread numbered on numbered.id = thread.id
    join archived_person person on person.id = thread.made_by
    where page.n between ${first} and ${last} order by page.n, numbered.n`,
  'proposals.ndjson': (first, last) => sql`
    select json_build_object('n', numbered.n, 'page', page.n, 'by', person.n, 'at', proposal.at, 'version', proposal.version,
      'offer', proposal.offer, 'kind', proposal.kind, 'was', was, 'becomes', becomes, 'kept_back', kept_back,
      'decisions', ${list(sql`select json_build_object('by', decider.n, 'at', decision.at, 'kind', decision.kind,
          'first_version', decision.first_version, 'version', decision.version, 'offer', decision.offer)
        from proposal_decision decision join archived_person decider on decider.id = decision.person_id
        where decision.proposal_id = proposal.id order by decision.id`)})::text as line
    from archived_page page join proposal on proposal.page_id = page.id
    join archived_proposal numbered on numbered.id = proposal.id
    join archived_person person on person.id = proposal.person_id
    where page.n between ${first} and ${last} order by page.n, numbered.n`,
} as const satisfies Partial<Record<RecordFile, Lines>>;
export type LineFile = keyof typeof LINES;
export const LINE_FILES = Object.keys(LINES) as LineFile[];

/** The lines of a file about some pages, as one text that ends with a line end; empty for none. */
export async function recordLines(
  tx: Tx,
  file: LineFile,
  [first, last]: readonly [number, number],
  archived: Archived,
): Promise<string> {
  const { rows } = await sql<{ text: string | null }>`
    select string_agg(line, E'\n') as text from (${LINES[file](first, last, archived)}) lines`.execute(
    tx,
  );
  const text = rows[0]?.text;
  return text ? `${text}\n` : '';
}

const people = (
  klass: string,
) => sql`select json_build_object('n', numbered.n, 'role', person.role, 'given', given, 'family', family,
    'called', called, 'email', email,
    'office', ${officeOf(klass)},
    'staff', ${staffOf(klass)}, 'joined', here.joined_at, 'left', here.left_at)
  from archived_person numbered join person on person.id = numbered.id`;

/** Files that are written at once. */
const WHOLE = {
  'people.json': ({ class: klass, student }: Archived) =>
    list(sql`${
      student === null
        ? people(klass)
        : // Of others who wrote in a shared page, or taught it, no more than a number and what staff are called.
          sql`select json_build_object('n', numbered.n, 'role', person.role,
            'given', case when ${own(student)} then given else '' end,
            'family', case when ${own(student)} then family else '' end,
            'called', called, 'email', case when ${own(student)} then email else '' end,
            'office', null, 'staff', ${staffOf(klass)},
            'joined', case when ${own(student)} then here.joined_at end,
            'left', case when ${own(student)} then here.left_at end)
          from archived_person numbered join person on person.id = numbered.id`
    } left join class_staff on class_staff.person_id = person.id and class_staff.class_id = ${klass}
      left join enrolment here on here.person_id = person.id and here.class_id = ${klass}
      order by numbered.n`),
  'rubrics.json': () =>
    list(sql`select json_build_object('n', numbered.n, 'title', title, 'body', body, 'version', version,
        'by', ${numberOf('person', 'rubric.made_by')}, 'at', made_at, 'away', away_at, 'place', place,
        'examples', ${list(sql`select json_build_object('criterion', criterion, 'points', example.points, 'page', page.n,
            'version', example.version, 'by', maker.n, 'at', example.made_at, 'away', example.away_at)
          from example join archived_page page on page.id = example.page_id
          join archived_person maker on maker.id = example.made_by
          where example.rubric_id = rubric.id order by page.n, criterion`)})
      from archived_rubric numbered join rubric on rubric.id = numbered.id order by numbered.n`),
  'assignments.json': ({ class: klass, student }: Archived) =>
    list(sql`select json_build_object('n', numbered.n, 'title', task.title, 'instructions', instructions,
        'points', points::text, 'guarded', guarded, 'by', ${numberOf('person', 'task.made_by')}, 'at', made_at,
        'category', category, 'rubric', ${numberOf('rubric', 'task.rubric_id')}, 'form', form, 'late', late, 'hand_in', hand_in,
        'marking', marking,
        'reminder', reminder, 'own_scoring', own_scoring, 'classmates_named', classmates_named,
        'feedback_waits', feedback_waits, 'unit', ${numberOf('unit', 'handed.unit_id')}, 'handed_out', handed_out_at,
        'due', due_at, 'withdrawn', withdrawn_at, 'changed', changed_at, 'counting', counting,
        'originals', ${list(sql`select json_build_object('page', ${numberOf('page', 'original.page_id')},
            'version', original.version, 'delivery', original.delivery,
            'instead_of', ${numberOf('page', 'original.instead_of')})
          from assignment_original original join archived_page page on page.id = original.page_id
          where original.assignment_id = task.id order by page.n`)},
        'meant', json_build_object(
          'only', ${student === null ? numbersIn(sql`task.spec -> 'only'`) : sql`null::json`},
          'without', coalesce(${student === null ? numbersIn(sql`task.spec -> 'without'`) : sql`null::json`}, '[]'),
          'grouping', (select grouped.n from jsonb_array_elements(task.spec -> 'classes') part
            join archived_grouping grouped on grouped.id::text = part ->> 'grouping'
            where part ->> 'class' = ${klass}::text limit 1),
          'adapted', ${student === null ? adapted : sql`'[]'::json`}),
        'allowances', ${
          student === null
            ? list(sql`select json_build_object('person', person.n, 'kind', kind, 'due', allowance.due_at, 'note', note,
                'by', ${numberOf('person', 'allowance.made_by')}, 'at', allowance.at)
              from allowance join archived_person person on person.id = allowance.person_id
              where allowance.assignment_id = task.id and exists (select from enrolment
                where enrolment.person_id = allowance.person_id and enrolment.class_id = ${klass}) order by allowance.id`)
            : sql`'[]'::json`
        })
      from archived_assignment numbered join assignment task on task.id = numbered.id
      join assignment_class handed on handed.assignment_id = task.id and handed.class_id = ${klass} order by numbered.n`),
  'class.json': (archived: Archived) => sql`(select json_build_object(
      'format', 'Uncia archive, version 1', 'school', coalesce(class.brought ->> 'school', school.name),
      'name', class.name, 'course', course.title, 'about', about, 'opened', opened_at,
      'archived', coalesce(archived_at, now()), 'join_rule', join_rule, 'grade_rules', grade_rules,
      'grade_rules_version', grade_rules_version,
      'units', ${list(sql`select json_build_object('n', numbered.n, 'title', title, 'place', place, 'away', away_at,
          'stored', stored_at) from archived_unit numbered join unit on unit.id = numbered.id order by numbered.n`)},
      'groupings', ${list(sql`select json_build_object('n', numbered.n, 'name', "grouping".name, 'groups',
          ${list(sql`select json_build_object('name', part.name, 'place', part.place, 'members',
              ${list(sql`select member.n from group_member join archived_person member on member.id = group_member.person_id
                where group_member.group_id = part.id order by member.n`)})
            from grouping_group part where part.grouping_id = "grouping".id order by part.place, part.name`)})
        from archived_grouping numbered join "grouping" on "grouping".id = numbered.id order by numbered.n`)},
      'notes', ${
        archived.student === null
          ? list(sql`select json_build_object('by', ${numberOf('person', 'note.made_by')}, 'at', made_at, 'text', text,
              'settled', settled_at, 'unit', ${numberOf('unit', 'note.unit_id')}, 'page', ${numberOf('page', 'note.page_id')},
              'rubric', ${numberOf('rubric', 'note.rubric_id')}) from note where ${NOTES(archived)} order by made_at, text`)
          : sql`'[]'::json`
      },
      'events', ${
        archived.student === null
          ? list(sql`select json_build_object('at', at, 'by', ${numberOf('person', 'class_event.person_id')}, 'kind', kind)
              from class_event where class_event.class_id = class.id order by class_event.id`)
          : sql`'[]'::json`
      })
    from class join course on course.id = class.course_id join school on school.id = class.school_id
    where class.id = ${archived.class})`,
  'calendar.json': ({
    class: klass,
  }: Archived) => sql`(select coalesce(class.brought -> 'calendar', to_jsonb(json_build_object(
      'time_zone', school.time_zone,
      'term', json_build_object('name', term.name, 'starts', term.starts, 'ends', term.ends),
      'holidays', ${list(sql`select json_build_object('name', name, 'starts', starts, 'ends', ends) from holiday
        where holiday.school_id = class.school_id and holiday.ends >= term.starts and holiday.starts <= term.ends
        order by starts, name`)},
      'lessons', ${list(sql`select json_build_object('weekday', weekday, 'starts', starts, 'ends', ends) from lesson_slot
        where lesson_slot.class_id = class.id order by weekday, starts`)})))
    from class join term on term.id = class.term_id join school on school.id = class.school_id where class.id = ${klass})`,
} as const satisfies Partial<Record<RecordFile, (archived: Archived) => RawBuilder<unknown>>>;

function own(student: string) {
  return sql`person.id = ${student}`;
}
/** The numbers of people in a JSON array of ids; null for JSON null. */
function numbersIn(ids: RawBuilder<unknown>) {
  return sql`(case when jsonb_typeof(${ids}) = 'array' then coalesce((select json_agg(person.n order by person.n)
    from jsonb_array_elements_text(${ids}) meant(id) join archived_person person on person.id::text = meant.id), '[]') end)`;
}
const adapted = list(sql`select json_build_object('page', given.n, 'instead', taken.n,
    'students', coalesce(${numbersIn(sql`part -> 'students'`)}, '[]'))
  from jsonb_array_elements(case when jsonb_typeof(task.spec -> 'adapted') = 'array' then task.spec -> 'adapted' else '[]' end)
    parts(part)
  join archived_page given on given.id::text = part ->> 'page' join archived_page taken on taken.id::text = part ->> 'instead'
  order by given.n`);

export type WholeFile = keyof typeof WHOLE;
export const WHOLE_FILES = Object.keys(WHOLE) as WholeFile[];

/** A file that is written at once, indented for people to read. */
export async function recordWhole(tx: Tx, file: WholeFile, archived: Archived): Promise<string> {
  const { rows } = await sql<{
    text: string;
  }>`select jsonb_pretty((${WHOLE[file](archived)})::jsonb) as text`.execute(tx);
  return `${rows[0]?.text ?? 'null'}\n`;
}
