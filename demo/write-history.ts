import { Transform, type Step } from 'prosemirror-transform';
import { PASTED } from '../src/lib/core/history/work-line';
import { isAnswer, schema } from '../src/lib/core/page/schema';
import type { HeldPage } from '../src/lib/server/page/held-page';
import type { StepRow } from '../src/lib/server/page/changing-page';
import { answersFor } from './answers';
import { Chance } from './chance';
import type { DemoOriginal } from './originals';
import type { Fate } from './plans';
import type { WrittenCopy } from './put-written';
import { DAY, MINUTE, type School } from './school';
import type { ScoreBy } from './score-by';
import { writeAnswers } from './write-copy';

const FROM_A_BOOK =
  'A sketch of a harbour shows the coast as it appears from the sea. It is drawn from a stated position, with bearings to the principal marks, and gives the least depths in the approach, the nature of the bottom, and the dangers on either hand. Buildings are shown only where they serve as marks.';

/** Writes one copy's history as its student would have made it. */
export function writeHistory(
  chance: Chance,
  school: School,
  copy: {
    id: string;
    student: string;
    page: HeldPage;
    out: number;
    due: number;
    lessons: number[];
    scoreBy: ScoreBy;
  },
  original: DemoOriginal['key'],
  fate: Fate,
) {
  const events: WrittenCopy['events'] = [];
  const givenScores: WrittenCopy['scores'] = [];
  const { student } = copy;
  if (fate.is !== 'unopened')
    events.push({ kind: 'opened', at: copy.out + chance.whole(2, 14) * MINUTE, person: student });
  let held = copy.page;
  const rows: StepRow[] = [];
  const snapshots: HeldPage[] = [];
  const client = `demo-${copy.id.slice(0, 8)}`;
  const add = (step: Step, at: number, pasted = false) => {
    held = held.with(step, client, held.version + 1, student, at);
    rows.push({
      page_id: copy.id,
      version: held.version,
      school_id: school.id,
      author_id: student,
      at: new Date(at),
      client,
      client_no: held.version,
      body: { ...(step.toJSON() as object), ...(pasted && { [PASTED]: true }) },
    });
    if (held.wantsSnapshot) {
      snapshots.push(held);
      held = held.snapshotAfter();
    }
  };
  /** All that was written goes at once, and nobody says why. */
  const empty = () => {
    const at = Math.min(held.lastAt + 3 * MINUTE, school.now - MINUTE);
    const gone = new Transform(held.doc);
    held.doc.descendants((node, pos) => {
      if (node.type.name !== 'answer_writing') return !isAnswer(node);
      const from = gone.mapping.map(pos + 2);
      gone.delete(from, gone.mapping.map(pos + node.nodeSize - 2));
      return false;
    });
    for (const step of gone.steps) add(step, at);
  };
  /** What was written last is replaced by what stands in a book. */
  const pasteOver = () => {
    // Chance of its own, so that the rest of the demo stays as it is.
    const own = new Chance(held.version);
    const last = answers.filter(({ part }) => part === 'show');
    for (const { step, at } of writeAnswers(own, held.doc, last, [held.lastAt + MINUTE]).steps)
      add(step, Math.min(at, school.now - 40 * MINUTE));
    const at = Math.min(held.lastAt + 2 * MINUTE, school.now - 30 * MINUTE);
    const over = new Transform(held.doc);
    held.doc.descendants((node, pos) => {
      if (node.type.name !== 'answer_writing') return !isAnswer(node);
      over.replaceWith(pos + 2, pos + node.nodeSize - 2, schema.text(FROM_A_BOOK));
      return false;
    });
    for (const step of over.steps) add(step, at, true);
  };
  const write = (answers: Parameters<typeof writeAnswers>[2], sittings: number[]) => {
    for (const { step, at } of writeAnswers(chance, held.doc, answers, sittings).steps) {
      if (at >= school.now) break;
      add(step, at);
    }
  };
  const began = copy.out + chance.whole(3, 15) * MINUTE;
  const evening = copy.out + chance.whole(5, 8) * 60 * MINUTE;
  const sittings = [began, ...(chance.happens(60) ? [evening] : []), ...copy.lessons]
    .filter((at) => at < school.now - 5 * MINUTE)
    .sort((a, b) => a - b)
    .slice(0, 3);
  const answers = answersFor(chance, original);
  if (fate.is === 'working' || fate.is === 'pasted over')
    write(answers.slice(0, fate.parts), sittings);
  else if (fate.is !== 'unopened' && fate.is !== 'opened') write(answers, sittings);
  if (fate.is === 'emptied') empty();
  if (fate.is === 'pasted over') pasteOver();

  if (!['unopened', 'opened', 'working', 'emptied', 'pasted over'].includes(fate.is)) {
    const late = fate.is === 'late' ? chance.whole(20, 60) * 60 * MINUTE : 0;
    const inTime = Math.min(
      copy.due - chance.whole(1, 30) * MINUTE,
      held.lastAt + chance.whole(2, 9) * MINUTE,
    );
    const wanted = Math.max(
      held.lastAt + MINUTE,
      late ? Math.min(copy.due + late, school.now - 5 * MINUTE) : inTime,
    );
    const handedIn = Math.min(wanted, school.now - 1000);
    const note = chance.happens(15) ? 'I was not sure about the last one.' : '';
    events.push({ kind: 'handed in', at: handedIn, person: student, note });
    const at = Math.min(copy.due + DAY + chance.whole(0, 90) * MINUTE, school.now - 20 * MINUTE);
    if ('points' in fate && at > handedIn) {
      events.push({ kind: 'looked', at: at - 4 * MINUTE, person: school.teacher });
      givenScores.push({ ...copy.scoreBy(fate.points), at });
      if (fate.is !== 'marked')
        events.push({ kind: 'handed back', at: at + 1000, person: school.teacher });
      if (fate.is === 'revising')
        write(
          [{ part: 'why', type: ' It turns at both ends, so it must be slow there.' }],
          [Math.min(at + 60 * MINUTE, school.now - 5 * MINUTE)],
        );
    }
  }
  return { begins: copy.page.doc, held, rows, snapshots, events, scores: givenScores };
}
