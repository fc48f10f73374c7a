import { z } from 'zod';
import { MOST_BLOCKS } from '../page/limits';
import type { Part } from '../page/parts';
import { checkAnswer } from './check-answer';
import type { Keys } from './key-changes';

const VERDICTS = ['right', 'wrong', 'unreadable', 'wrong unit', 'no answer'] as const;

/** What a person decided against the key, by the part's id. */
export const Overruled = z
  .record(z.string().max(200), z.enum(['right', 'wrong']))
  .refine((parts) => Object.keys(parts).length <= MOST_BLOCKS, 'No page has so many parts.');
export type Overruled = z.infer<typeof Overruled>;

/** How the answers of a copy agreed with their keys when they were checked. It says nothing of the keys themselves. */
export const Checked = z.object({
  parts: z
    .array(
      z.object({
        id: z.string().max(200),
        number: z.int(),
        label: z.string().max(500),
        answer: z.string().max(500),
        verdict: z.enum(VERDICTS),
        /** What a person made of it. */
        overruled: z.enum(['right', 'wrong']).optional(),
      }),
    )
    .max(MOST_BLOCKS),
});
export type Checked = z.infer<typeof Checked>;
export type CheckedPart = Checked['parts'][number];

/** Checks the parts that have a key; null when none has. What has no key does not count. */
export function checkParts(
  parts: readonly Part[],
  keys: Keys,
  overruled: Overruled = {},
): Checked | null {
  const checked = parts.flatMap((part): CheckedPart[] => {
    const key = keys[part.id];
    if (!key) return [];
    const { id, number } = part;
    const decided = overruled[id];
    return [
      {
        id,
        number,
        label: part.label.slice(0, 500),
        answer: part.answer.slice(0, 500),
        verdict: checkAnswer(part, key) ?? 'no answer',
        ...(decided && { overruled: decided }),
      },
    ];
  });
  return checked.length > 0 ? { parts: checked } : null;
}
