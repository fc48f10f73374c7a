import { z } from 'zod';
import { FOUND } from '../attached/attached';
import { Spot } from '../attached/spot';
import { FOLIO } from '../copy/folio';
import { EVENT_KINDS } from '../copy/reduce';
import { GradeRules } from '../grades/rules';
import { DELIVERIES, HAND_INS, MARKINGS } from '../handout/spec';
import { AnswerKey } from '../marking/answer-key';
import { Checked } from '../marking/check-copy';
import { DECISION_KINDS, PROPOSAL_KINDS } from '../proposals/proposal';
import { Stamp } from '../stamps/stamp';

/**
 * What an archive holds to be opened again, in the files of its `record/`. Whatever belongs to a class has a number there,
 * counted from 1 for each kind; instants are ISO 8601 in UTC, with microseconds; points are decimal texts.
 */

const number = z.number().int().min(1);
const maybe = <T extends z.ZodType>(type: T) => type.nullable();
const count = z.number().int().min(0).max(10_000_000);
const place = z.number().int().min(-1_000_000).max(10_000_000);
const instant = z
  .string()
  .max(40)
  .regex(/^\d{4}-\d\d-\d\dT[\d:.]+(\+00:00|Z)$/);
const day = z.iso.date();
const clock = z.string().regex(/^\d\d:\d\d(:\d\d)?$/);
const points = z.string().regex(/^\d{1,6}(\.\d{1,2})?$/);
const text = (most: number) => z.string().max(most);
const title = text(1000);
const words = text(100_000);
const json = z.unknown();
const hash = z.string().regex(/^[0-9a-f]{64}$/);
const client = text(100);

/** How much is written on a page, and what went of it at once; instants in epoch milliseconds. */
const fell = { version: count, left: count, at: z.number() };
const pasted = {
  pasted: count.optional(),
  pairs: z.array(z.int().min(0).max(0xffffffff)).max(100).optional(),
};
const Level = z.object({
  at: z.number(),
  version: count,
  words: count,
  strokes: count.default(0),
  peak: z.object({ version: count, words: count }),
  drawnPeak: z.object({ version: count, strokes: count }).default({ version: 0, strokes: 0 }),
  loss: maybe(
    z.union([
      z.object({ ...fell, ...pasted, words: count }),
      z.object({ ...fell, ...pasted, strokes: count }),
    ]),
  ),
});

const Delivery = z.enum(DELIVERIES);

export const PersonRecord = z.object({
  n: number,
  role: z.enum(['teacher', 'student', 'office']),
  given: title,
  family: title,
  called: title,
  email: title,
  /** The office's number for them. */
  office: maybe(title),
  /** What they are among the staff of the class; null for nothing. */
  staff: maybe(z.enum(['lead', 'co-teacher', 'marker'])),
  /** When a student came into the class, and left it. */
  joined: maybe(instant),
  left: maybe(instant),
});

export const ClassRecord = z.object({
  format: z.literal('Uncia archive, version 1'),
  school: title,
  name: title,
  course: title,
  about: words,
  opened: maybe(instant),
  archived: instant,
  join_rule: z.enum(['open', 'coming', 'ask']),
  grade_rules: maybe(GradeRules),
  grade_rules_version: count,
  units: z.array(
    z.object({ n: number, title, place, away: maybe(instant), stored: maybe(instant) }),
  ),
  groupings: z.array(
    z.object({
      n: number,
      name: title,
      groups: z.array(z.object({ name: title, place, members: z.array(number) })),
    }),
  ),
  notes: z.array(
    z.object({
      by: number,
      at: instant,
      text: words,
      settled: maybe(instant),
      /** What it is about: the course, or a unit, a page, a rubric. */
      unit: maybe(number),
      page: maybe(number),
      rubric: maybe(number),
    }),
  ),
  events: z.array(
    z.object({ at: instant, by: number, kind: z.enum(['archived', 'opened again']) }),
  ),
});

export const CalendarRecord = z.object({
  time_zone: z.string().max(100),
  term: z.object({ name: title, starts: day, ends: day }),
  holidays: z.array(z.object({ name: title, starts: day, ends: day })),
  lessons: z.array(
    z.object({ weekday: z.number().int().min(1).max(7), starts: clock, ends: clock }),
  ),
});

/**
 * What is kept of an opened archive besides what stands in tables: the school that it comes from, with its numbers for people
 * who are names here; and who opened it, who leads it since, with what they were before.
 */
export const Brought = z.object({
  school: title,
  calendar: CalendarRecord,
  office: z.record(z.string(), title),
  opener: z.object({ person: z.uuid(), was: maybe(z.enum(['lead', 'co-teacher', 'marker'])) }),
});

export const RubricRecord = z.object({
  n: number,
  title,
  body: json,
  version: count,
  by: number,
  at: instant,
  away: maybe(instant),
  place,
  /** Copies that are examples of a step of a criterion. */
  examples: z
    .array(
      z.object({
        criterion: text(40),
        points,
        page: number,
        version: count,
        by: number,
        at: instant,
        away: maybe(instant),
      }),
    )
    .default([]),
});

export const AssignmentRecord = z.object({
  n: number,
  title,
  instructions: words,
  points: maybe(points),
  guarded: z.boolean(),
  by: number,
  at: instant,
  category: title,
  rubric: maybe(number),
  form: z.enum(['pages', 'done or not']),
  late: z.enum(['taken', 'not taken']),
  hand_in: z.enum(HAND_INS).default('for all'),
  marking: z.enum(MARKINGS).default('by hand'),
  reminder: maybe(count),
  /** Its students score their own copies; see who scored theirs; what is said to them waits until it goes back. */
  own_scoring: z.boolean().default(false),
  classmates_named: z.boolean().default(false),
  feedback_waits: z.boolean().default(false),
  unit: maybe(number),
  handed_out: instant,
  due: maybe(instant),
  withdrawn: maybe(instant),
  changed: instant,
  counting: z.enum(['yes', 'extra', 'no']),
  originals: z.array(
    z.object({ page: number, version: count, delivery: Delivery, instead_of: maybe(number) }),
  ),
  /** To whom it was meant to go: students, null for all; who were left out; by which grouping. */
  meant: z.object({
    only: maybe(z.array(number)),
    without: z.array(number),
    grouping: maybe(number),
    adapted: z.array(z.object({ page: number, instead: number, students: z.array(number) })),
  }),
  allowances: z.array(
    z.object({
      person: number,
      kind: z.enum(['extension', 'excused', 'as for all']),
      due: maybe(instant),
      note: words,
      by: number,
      at: instant,
    }),
  ),
});

export const PageRecord = z.object({
  n: number,
  kind: z.enum(['original', 'reading', 'copy', 'class page', 'own page']),
  title,
  unit: maybe(number),
  place,
  area: maybe(z.enum(['shelf', 'worktable', 'cupboard', 'welcome'])),
  from: maybe(number),
  from_version: maybe(count),
  adapted: z.boolean(),
  away: maybe(instant),
  replaced: maybe(instant),
  folio: maybe(z.enum(FOLIO)).default(null),
  for: maybe(number),
  delivery: maybe(Delivery),
  group: maybe(title),
  source: maybe(number),
  source_version: maybe(count),
  assignment: maybe(number),
  student: maybe(number),
  members: z.array(number),
  guarded: z.boolean(),
  version: count,
  seen_from: count,
  /** What is kept of it beside its steps. */
  done_mask: maybe(text(2000)),
  words: maybe(count),
  level: maybe(Level),
  written: maybe(instant),
  with_teacher: z.boolean(),
  made: instant,
  pictures: z.array(hash),
  /** Keys to its answers. */
  keys: z.array(z.object({ part: text(40), body: AnswerKey })),
  /** Who marks it. */
  markers: z.array(number).default([]),
  /** The copies of those who were to score it as it stood in a version; and those whose scoring is withheld. */
  readers: z.array(z.object({ page: number, version: count })).default([]),
  withheld: z.array(number).default([]),
});

const SnapshotRecord = z.object({
  page: number,
  version: count,
  at: instant,
  doc: z.record(z.string(), json),
  /** Who wrote what: positions in the page, and a person's number. */
  authorship: z.array(
    z.object({ from: count, to: count, author: number, first: count, last: count }),
  ),
  parts: z.array(json),
});

const StepRecord = z.object({
  page: number,
  version: number,
  by: number,
  at: instant,
  client,
  no: count,
  body: z.record(z.string(), json),
});

/** Words whose place was gone when they arrived. */
const SetAsideRecord = z.object({
  page: number,
  client,
  no: count,
  by: number,
  at: instant,
  base: count,
  body: z.record(z.string(), json),
  words: text(1_000_000),
  settled: maybe(instant),
});

/** What one of two who mark a copy gave it; it does not count before both have. */
const ScoringApartRecord = z.object({
  page: number,
  by: number,
  at: instant,
  points: maybe(points),
  /** By a rubric, as it was then; `rubric.id` is the rubric's number, as text. */
  scoring: json,
  /** By the answer keys: what each part came to. */
  checked: maybe(Checked).default(null),
  rubric_points: maybe(points),
  rubric_most: maybe(points),
  version: count,
});
const ScoringRecord = ScoringApartRecord.extend({
  n: number,
  why: maybe(z.string().max(1000)).optional(),
});

/** What students scored a copy with. */
const StudentScoringRecord = z.object({
  page: number,
  /** The copy of those who gave it; null where they scored their own. */
  by_page: maybe(number),
  by: number,
  at: instant,
  version: count,
  /** As of a scoring. */
  scoring: json,
});

const EventRecord = z.object({
  page: number,
  by: number,
  at: instant,
  /** An older archive has "loss accepted". */
  kind: z.preprocess(
    (kind) => (kind === 'loss accepted' ? 'gap accepted' : kind),
    z.enum(EVENT_KINDS),
  ),
  version: count,
  of_version: maybe(count),
  /** The scoring that a copy was handed back with. */
  scoring: maybe(number),
  note: words,
});

const ThreadRecord = z.object({
  n: number,
  page: number,
  by: number,
  at: instant,
  quote: words,
  made_version: count,
  made_from: maybe(count),
  made_to: maybe(count),
  at_from: maybe(count),
  at_to: maybe(count),
  /** The number of what is attached, where it is tied to a place on that. */
  on: maybe(number).default(null),
  spot: maybe(Spot).default(null),
  /** The criterion of the rubric that it is on, as it was called then. */
  criterion: maybe(z.object({ id: z.string().max(40), title: words })).default(null),
  /** Its picture, of one that is a stamp; a teacher's own is a file, by its digest. */
  stamp: maybe(
    z.union([Stamp.options[0], z.object({ kind: z.literal('own'), picture: hash })]),
  ).default(null),
  /** Students heard nothing of it. */
  staff_only: z.boolean().default(false),
  comments: z.array(
    z.object({
      by: number,
      at: instant,
      kind: z.enum(['said', 'settled', 'opened again']),
      text: words,
      /** It went to the student when the copy was handed back. */
      kept_back: z.boolean().default(false),
      /** When whoever wrote it withdrew it, before its student had it. */
      withdrawn: maybe(instant).default(null),
    }),
  ),
});

const range = z.object({ from: count, to: count });
/** A change that is offered, and where it stands: its steps on a version of its page. */
const OfferRecord = z.object({
  steps: z.array(z.record(z.string(), json)),
  takesOut: z.array(range),
  beside: z.array(range),
});
/** An edit that one of the staff offered in a copy, and what became of it. */
const ProposalRecord = z.object({
  n: number,
  page: number,
  by: number,
  at: instant,
  version: count,
  offer: OfferRecord,
  kind: z.enum(PROPOSAL_KINDS),
  was: words,
  becomes: words,
  kept_back: z.boolean(),
  decisions: z.array(
    z.object({
      by: number,
      at: instant,
      kind: z.enum(DECISION_KINDS),
      /** The page's versions before and after, of one that was taken or undone. */
      first_version: maybe(count),
      version: maybe(count),
      offer: maybe(OfferRecord),
    }),
  ),
});

/** A document as a page, and what of it stayed behind. */
const ShownRecord = z.object({ doc: z.record(z.string(), json), left: z.array(text(1000)) });
const filePath = text(1000).min(1);

/** A file or a link that was attached to a page: where the file lies below `data/`, and what stood behind the link. */
const AttachedRecord = z.object({
  n: number,
  page: number,
  by: number,
  at: instant,
  away: maybe(instant),
  found: z.enum(FOUND),
  url: maybe(text(5000)),
  file: maybe(z.object({ path: filePath, name: title })),
  shown: maybe(ShownRecord),
  kept: z.array(z.object({ path: filePath, name: title, at: instant, shown: maybe(ShownRecord) })),
});

/** A picture of a comment, or what was spoken: which of its thread's comments it goes with, from 0. */
const SaidFileRecord = z.object({
  thread: number,
  comment: count,
  page: number,
  by: number,
  at: instant,
  file: z.object({ path: filePath, name: title }),
});

/** The files of `record/`, each with what it holds: one thing, a list of things, or one thing a line. */
export const RECORD_FILES = {
  'class.json': { holds: 'one', type: ClassRecord },
  'people.json': { holds: 'list', type: PersonRecord },
  'calendar.json': { holds: 'one', type: CalendarRecord },
  'rubrics.json': { holds: 'list', type: RubricRecord },
  'assignments.json': { holds: 'list', type: AssignmentRecord },
  'pages.ndjson': { holds: 'lines', type: PageRecord },
  'attached.ndjson': { holds: 'lines', type: AttachedRecord },
  'snapshots.ndjson': { holds: 'lines', type: SnapshotRecord },
  'steps.ndjson': { holds: 'lines', type: StepRecord },
  'set-aside.ndjson': { holds: 'lines', type: SetAsideRecord },
  'scorings.ndjson': { holds: 'lines', type: ScoringRecord },
  'scorings-apart.ndjson': { holds: 'lines', type: ScoringApartRecord },
  'student-scorings.ndjson': { holds: 'lines', type: StudentScoringRecord },
  'events.ndjson': { holds: 'lines', type: EventRecord },
  'threads.ndjson': { holds: 'lines', type: ThreadRecord },
  'said-files.ndjson': { holds: 'lines', type: SaidFileRecord },
  'proposals.ndjson': { holds: 'lines', type: ProposalRecord },
} as const;
export type RecordFile = keyof typeof RECORD_FILES;

/** The JSON Schema (draft 2020-12) of each file: of the whole file, or of each of its lines. */
export function recordSchemas(): { name: string; schema: object }[] {
  return Object.entries(RECORD_FILES).map(([file, { holds, type }]) => ({
    name: `${file.replace(/\.\w+$/, '')}.schema.json`,
    schema: {
      ...z.toJSONSchema(holds === 'list' ? z.array(type) : type),
      title: holds === 'lines' ? `each line of ${file}` : file,
    },
  }));
}
