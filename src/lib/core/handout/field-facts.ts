import type { ChangeFact } from './change-facts';
import { isSharedByClass, type HandOutSpec } from './spec';

interface ClassDue {
  name: string;
  /** Epoch milliseconds; null for never. */
  was: number | null;
  becomes: number | null;
}

/** What changes of an assignment besides its copies. */
export function fieldFacts(
  was: HandOutSpec,
  becomes: HandOutSpec,
  dues: readonly ClassDue[],
): ChangeFact[] {
  const facts: ChangeFact[] = [];
  if (was.title !== becomes.title) facts.push({ kind: 'title', becomes: becomes.title });
  if (was.instructions !== becomes.instructions) facts.push({ kind: 'instructions' });
  for (const { name, ...due } of dues)
    if (due.was !== due.becomes) facts.push({ kind: 'due', class: name, ...due });
  if (was.points !== becomes.points)
    facts.push({ kind: 'points', was: was.points, becomes: becomes.points });
  if (was.rubric !== becomes.rubric) facts.push({ kind: 'rubric' });
  if (was.category !== becomes.category)
    facts.push({ kind: 'category', becomes: becomes.category });
  if (was.guarded !== becomes.guarded) facts.push({ kind: 'guarded', becomes: becomes.guarded });
  if (was.late !== becomes.late) facts.push({ kind: 'late', becomes: becomes.late });
  if (was.handIn !== becomes.handIn && isSharedByClass(becomes))
    facts.push({ kind: 'hand in', becomes: becomes.handIn });
  if (was.marking !== becomes.marking) facts.push({ kind: 'marking', becomes: becomes.marking });
  if (was.reminder !== becomes.reminder) facts.push({ kind: 'reminder' });
  return facts;
}
