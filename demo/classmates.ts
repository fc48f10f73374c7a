import type { App } from '../src/lib/server/app';
import { readLine } from '../src/lib/server/copy/marking-place';
import { isWithTeacher, stateOf } from '../src/lib/core/copy/state';
import { dealReaders } from '../src/lib/core/marking/deal-readers';
import type { Chance } from './chance';
import { lightsIn } from './lights';
import { MINUTE, type School } from './school';
import { scoringOf } from './score-by';

const WORDS = [
  'I could say each light by your words alone.',
  'Say how you counted the dark.',
  'The second reason is a good one.',
  'Which light did you mean here?',
];

/** In 8A students score two copies each of *A light’s character*; most have done so. */
export async function letClassmatesScore(app: App, chance: Chance, school: School): Promise<void> {
  const { at, rubric } = await lightsIn(app, school, '8A');
  const line = await readLine(app.db, at, school.teacher);
  const copies = new Map(
    line
      .filter(({ copy: { facts } }) => {
        const state = stateOf(facts);
        return isWithTeacher(state) || state === 'handed back';
      })
      .map(({ copy }) => [copy.id, copy]),
  );
  for (const { page, by } of dealReaders([...copies.keys()], 2)) {
    const [copy, reader] = [copies.get(page), copies.get(by)];
    const person = reader?.members[0];
    if (!copy || !person) continue;
    const placed = { school_id: school.id, page_id: page, by_page_id: by, version: copy.version };
    await app.db.insertInto('reading').values(placed).execute();
    if (!chance.happens(75)) continue;
    const scoring = scoringOf(chance, rubric, `${chance.whole(11, 19)}`, WORDS);
    // Before it was handed back.
    const given = (copy.facts.handedBack ?? school.now) - chance.whole(120, 2400) * MINUTE;
    await app.db
      .insertInto('student_scoring')
      .values({
        ...placed,
        person_id: person,
        at: new Date(given),
        scoring: JSON.stringify(scoring),
      })
      .execute();
  }
}
