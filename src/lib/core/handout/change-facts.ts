import { z } from 'zod';
import { DELIVERIES, HAND_INS, MARKINGS } from './spec';

const due = z.number().nullable();
const points = z.string().nullable();
const count = z.number();

/** What a change of an assignment does, fact by fact, as it is kept with the change. Instants in epoch milliseconds. */
export const ChangeFact = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('made'),
    delivery: z.enum(DELIVERIES),
    pages: count,
    students: count,
    /** How many begin as the shared page stands. */
    fromShared: count,
  }),
  z.object({ kind: z.literal('brought back'), pages: count }),
  z.object({ kind: z.literal('kept to read'), pages: count, students: count }),
  z.object({ kind: z.literal('out of sight'), pages: count, begun: count }),
  z.object({ kind: z.literal('other members'), pages: count }),
  z.object({ kind: z.literal('to another class'), copies: count }),
  z.object({ kind: z.literal('title'), becomes: z.string() }),
  z.object({ kind: z.literal('instructions') }),
  z.object({ kind: z.literal('due'), class: z.string(), was: due, becomes: due }),
  z.object({ kind: z.literal('points'), was: points, becomes: points }),
  /** Copies that were given more than it counts for now. */
  z.object({ kind: z.literal('more points'), copies: count, becomes: z.string() }),
  z.object({ kind: z.literal('rubric') }),
  z.object({ kind: z.literal('category'), becomes: z.string() }),
  z.object({ kind: z.literal('guarded'), becomes: z.boolean() }),
  z.object({ kind: z.literal('late'), becomes: z.enum(['taken', 'not taken']) }),
  z.object({ kind: z.literal('hand in'), becomes: z.enum(HAND_INS) }),
  z.object({ kind: z.literal('marking'), becomes: z.enum(MARKINGS) }),
  z.object({ kind: z.literal('reminder') }),
  z.object({ kind: z.literal('withdrawn'), class: z.string() }),
  /** A correction of a page, brought into its copies. */
  z.object({ kind: z.literal('corrected'), copies: count, begun: count }),
  /** Copies in which somebody wrote where something is corrected; some of whose they are. */
  z.object({ kind: z.literal('not corrected'), copies: count, names: z.array(z.string()) }),
  z.object({ kind: z.literal('not corrected: handed in'), copies: count }),
  /** From before changes were kept as facts. */
  z.object({ kind: z.literal('sentence'), text: z.string() }),
]);
export type ChangeFact = z.infer<typeof ChangeFact>;
