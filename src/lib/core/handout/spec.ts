import { z } from 'zod';
import { readLocalTime } from '../calendar/local-time';

/** How an original reaches students. */
export const DELIVERIES = ['to read', 'one for all', 'one per group', 'one each'] as const;
export type Delivery = (typeof DELIVERIES)[number];

/** Who hands in a page that a class shares: one of them for all, or it is with the teacher once each has said *done*. */
export const HAND_INS = ['for all', 'each'] as const;

/** Who marks what is handed in: a teacher, or its answer keys, which leave handing back to a teacher or do that, too. */
export const MARKINGS = ['by hand', 'by key', 'by key, handed back'] as const;

/** When something is due: never, at a time of the school's clock ("2026-10-14T14:50"), or at the end of a later lesson. */
export const DueSpec = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({
    kind: z.literal('at'),
    local: z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/, 'The due time is not a date and time.'),
  }),
  z.object({ kind: z.literal('lesson'), nth: z.number().int().min(1).max(20) }),
]);
export type DueSpec = z.infer<typeof DueSpec>;

const points = z
  .string()
  .regex(/^\d{1,6}(\.\d{1,2})?$/, 'Points are a number such as 10 or 7½, or nothing.');

/** What somebody wants to hand out, as it is kept with a draft and with the assignment made of it. */
export const HandOutSpec = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'The assignment needs a title.')
    .max(300, 'A title has at most 300 characters.'),
  instructions: z
    .string()
    .trim()
    .max(5000, 'Please say it in fewer than 5000 characters.')
    .default(''),
  /** `done or not` has no page: a student only says that they have done it. */
  form: z.enum(['pages', 'done or not']).default('pages'),
  originals: z
    .array(z.object({ page: z.uuid(), delivery: z.enum(DELIVERIES) }))
    .max(20, 'An assignment has at most 20 pages.'),
  classes: z
    .array(
      z.object({
        class: z.uuid(),
        unit: z.uuid().nullable().default(null),
        /** The grouping by which `one per group` goes. */
        grouping: z.uuid().nullable().default(null),
        /** Null: as for all classes. */
        due: DueSpec.nullable().default(null),
      }),
    )
    .min(1, 'Choose a class first.')
    .max(100, 'One hand-out goes to at most 100 classes.'),
  due: DueSpec.default({ kind: 'none' }),
  /** Chosen students of the classes; null for everybody. */
  only: z.array(z.uuid()).max(5000).nullable().default(null),
  without: z.array(z.uuid()).max(5000).default([]),
  /** Who gets an adapted page instead of one of the originals. */
  adapted: z
    .array(z.object({ page: z.uuid(), instead: z.uuid(), students: z.array(z.uuid()).max(500) }))
    .max(50)
    .default([]),
  /** A decimal text; null for no points. */
  points: points.nullable().default(null),
  rubric: z.uuid().nullable().default(null),
  category: z.string().trim().max(100).default(''),
  guarded: z.boolean().default(true),
  handIn: z.enum(HAND_INS).default('for all'),
  marking: z.enum(MARKINGS).default('by hand'),
  /** Minutes before it is due; null for no reminder. */
  reminder: z.number().int().min(5).max(20_160).nullable().default(null),
  /** Whether it is taken after its due time. */
  late: z.enum(['taken', 'not taken']).default('taken'),
});
export type HandOutSpec = z.infer<typeof HandOutSpec>;

/** Why somebody may not ask for these due times; null for nothing. What stands already may have others. */
export function dueFault({ due, classes }: Pick<HandOutSpec, 'due' | 'classes'>): string | null {
  const isNone = (spec: DueSpec | null) =>
    spec?.kind === 'at' && readLocalTime(spec.local, 'UTC') === null;
  return isNone(due) || classes.some((one) => isNone(one.due))
    ? 'There is no such due time: it is a day and a time of the years 2000 to 2199.'
    : null;
}

/** Whether a class shares one of its pages: then it says who hands that in. */
export const isSharedByClass = ({ form, originals }: Pick<HandOutSpec, 'form' | 'originals'>) =>
  form === 'pages' && originals.some(({ delivery }) => delivery === 'one for all');

/** Tells of a student of its classes whether a spec means them. */
export function isMeant({ only, without }: HandOutSpec): (student: string) => boolean {
  const [chosen, out] = [only && new Set(only), new Set(without)];
  return (student) => !out.has(student) && (!chosen || chosen.has(student));
}

/** The plainest spec: one page, one each, to all of one class. */
export const plainSpec = (
  page: string,
  klass: string,
  more: Partial<HandOutSpec>,
): HandOutSpec => ({
  ...HandOutSpec.parse({
    title: 'Untitled',
    originals: [{ page, delivery: 'one each' }],
    classes: [{ class: klass }],
  }),
  ...more,
});
