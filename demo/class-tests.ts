import { checkParts } from '../src/lib/core/marking/check-copy';
import { sumParts } from '../src/lib/core/marking/sum-parts';
import { partsOf } from '../src/lib/core/page/parts';
import { keptCheck } from '../src/lib/server/copy/mark-by-key';
import { HeldPage } from '../src/lib/server/page/held-page';
import type { Chance } from './chance';
import type { DemoOriginal } from './originals';
import type { WrittenCopy } from './put-written';
import { MINUTE, type School } from './school';
import { writeHistory } from './write-history';

/** The copies of a test that marks itself: most are in, two are begun, the rest not opened. What is left to no person goes back at once. */
export function writeTests(
  chance: Chance,
  school: School,
  original: DemoOriginal,
  copies: readonly { id: string; student_id: string | null }[],
  lesson: number,
): WrittenCopy[] {
  return copies.flatMap(({ id, student_id: student }, n): WrittenCopy[] => {
    if (student === null || n % 6 === 5) return [];
    const written = writeHistory(
      chance,
      school,
      {
        id,
        student,
        page: HeldPage.at(0, original.page, []),
        out: lesson,
        due: lesson + 40 * MINUTE,
        lessons: [],
        scoreBy: (points) => ({ points }),
      },
      original.key,
      n % 9 === 4 ? { is: 'working', parts: 3 } : { is: 'handed in' },
    );
    const handedIn = written.events.find(({ kind }) => kind === 'handed in');
    const checked = checkParts(partsOf(written.held.doc), original.keys);
    if (handedIn && checked) {
      const { at } = handedIn;
      written.scores.push({ ...keptCheck(checked), at });
      if (sumParts(checked).left === 0)
        written.events.push({ kind: 'handed back', at: at + 1, person: school.teacher });
    }
    return [{ id, ...written }];
  });
}
