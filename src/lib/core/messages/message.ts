import { z } from 'zod';
import { CAUSES } from '../headcount/gap';

const due = z.number().nullable();
const ofAssignment = { assignment: z.uuid(), class: z.string(), title: z.string() };

/** What somebody is notified of, as it is kept. Instants in epoch milliseconds; `due` is the reader's own. */
export const MessageFact = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('handed out'), ...ofAssignment, due }),
  z.object({
    kind: z.literal('due moved'),
    ...ofAssignment,
    from: due,
    to: due,
    /** Whether it is the reader's own time. */
    extension: z.boolean().default(false),
  }),
  z.object({
    kind: z.literal('excused'),
    ...ofAssignment,
    /** False: not any more, and `due` is the reader's own again. */
    excused: z.boolean(),
    due,
  }),
  /** For those who share a page: one of them did it for all. */
  z.object({ kind: z.literal('handed in for you'), title: z.string(), by: z.string() }),
  /** For staff: gathered, until it is read. */
  z.object({ kind: z.literal('handed in'), ...ofAssignment, count: z.int() }),
  /** What was said in the margin of a page; gathered, until it is read. */
  z.object({
    kind: z.literal('comments'),
    title: z.string(),
    /** Who spoke last. */
    by: z.string(),
    count: z.int(),
  }),
  /** What one of the staff proposes to change in a copy; gathered, until it is read. */
  z.object({
    kind: z.literal('proposals'),
    title: z.string(),
    by: z.string(),
    count: z.int(),
  }),
  /** One of the staff wrote in a copy. */
  z.object({ kind: z.literal('written in'), title: z.string(), by: z.string() }),
  /** One of the staff asks for what is not handed in. */
  z.object({
    kind: z.literal('reminder'),
    ...ofAssignment,
    due,
    overdue: z.boolean(),
    by: z.string(),
    /** What is said with it, or nothing. */
    words: z.string(),
  }),
  z.object({ kind: z.literal('due soon'), ...ofAssignment, due: z.number() }),
  z.object({ kind: z.literal('not handed out'), title: z.string(), fault: z.string() }),
  z.object({ kind: z.literal('handed back'), title: z.string() }),
  z.object({
    kind: z.literal('put back'),
    title: z.string(),
    by: z.string(),
    what: z.enum(['page', 'passage']).default('page'),
  }),
  /** One of the staff asks about a gap: what is missing, and why. */
  z.object({
    kind: z.literal('asked about'),
    title: z.string(),
    by: z.string(),
    cause: z.enum(CAUSES),
    /** What it is about: the attached files or links, the page that was written on instead. */
    names: z.array(z.string()),
  }),
  z.object({ kind: z.literal('moved here'), title: z.string(), by: z.string(), from: z.string() }),
  z.object({ kind: z.literal('class opened'), class: z.string() }),
  z.object({
    kind: z.literal('class archived'),
    class: z.string(),
    /** The last day on which students read their own work: "2027-01-31"; null: they do not. */
    until: z.iso.date().nullable(),
  }),
  z.object({ kind: z.literal('archive made'), name: z.string() }),
  z.object({
    kind: z.literal('archive opened'),
    name: z.string(),
    /** Why it could not be; null when it was. */
    fault: z.string().nullable(),
  }),
  z.object({
    kind: z.literal('class built'),
    class: z.string(),
    pages: z.number(),
    /** Drafts that came, and the titles of those whose due time has no counterpart. */
    drafts: z.number().default(0),
    undated: z.array(z.string()).default([]),
  }),
  z.object({
    kind: z.literal('class staff'),
    class: z.string(),
    /** Null: no longer one of its staff. */
    becomes: z.enum(['lead', 'co-teacher', 'marker']).nullable(),
    by: z.string(),
  }),
  z.object({
    kind: z.literal('course shared'),
    course: z.string(),
    /** Null: no longer shared. */
    may: z.enum(['use', 'write', 'own']).nullable(),
    by: z.string(),
  }),
  z.object({ kind: z.literal('asked to join'), class: z.string(), by: z.string() }),
  z.object({ kind: z.literal('join answered'), name: z.string(), accepted: z.boolean() }),
  z.object({
    kind: z.literal('joined'),
    class: z.string(),
    students: z.number(),
    /** Assignments handed out before that are still open. */
    open: z.number(),
  }),
  z.object({ kind: z.literal('new password'), by: z.string() }),
  /** From before messages were kept as facts. */
  z.object({ kind: z.literal('sentence'), subject: z.string(), text: z.string() }),
]);
export type MessageFact = z.infer<typeof MessageFact>;
