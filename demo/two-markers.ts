import type { Scoring } from '../src/lib/core/marking/scoring';
import { stepsOf, sumOf } from '../src/lib/core/marking/rubric-steps';
import type { App } from '../src/lib/server/app';
import { grantOnAssignment } from '../src/lib/server/access/in-the-name-of';
import { dealOut } from '../src/lib/server/copy/deal-out';
import { readLine } from '../src/lib/server/copy/marking-place';
import { readScoring } from '../src/lib/server/copy/scorings';
import type { Chance } from './chance';
import { lightsIn } from './lights';
import { MINUTE, type School } from './school';
import { scoringOf } from './score-by';

/** So many of a class's copies are marked by two. */
const TWICE = 14;

/** Ms Orrey and Ms Lindqvist share the copies of *A light’s character* in 8B; both mark some of them, and do not always agree. */
export async function markWithTwo(app: App, chance: Chance, school: School): Promise<void> {
  const { at, rubric } = await lightsIn(app, school, '8B');
  const { assignment, klass } = at;
  const grant = await grantOnAssignment(app.db, 'run the assignment', school.teacher, {
    assignment,
    class: klass,
  });
  const markers = [school.teacher, school.marker];
  await dealOut(app, grant, { by: 'evenly', twice: TWICE, markers });
  const line = await readLine(app.db, at, school.teacher);
  const twice = line.filter(({ copy: { facts }, markers: two }) => {
    const isIn = facts.handedIn !== null && (facts.handedBack ?? 0) < facts.handedIn;
    return two.length === 2 && (isIn || facts.scored !== null);
  });
  for (const [index, { copy }] of twice.entries()) {
    const last = await readScoring(app.db, copy.score);
    const settled = last?.scoring ?? scoringOf(chance, rubric, `${chance.whole(12, 18)}`, []);
    for (const [which, person] of markers.entries()) {
      // Of the last that wait one has scored hers alone.
      if (!last && which === 0 && index === twice.length - 1) continue;
      const scoring = last || index % 2 === 0 ? swayed(chance, settled) : settled;
      const sum = sumOf(rubric.table, scoring.criteria);
      await app.db
        .insertInto('score_apart')
        .values({
          school_id: school.id,
          page_id: copy.id,
          person_id: person,
          at: new Date((last?.at ?? school.now) - (2 - which) * 30 * MINUTE),
          scoring: JSON.stringify(scoring),
          rubric_points: sum.points,
          rubric_most: sum.most,
          version: copy.version,
        })
        .execute();
    }
  }
}

/** The same, but for half a step here and there. */
function swayed(chance: Chance, scoring: Scoring): Scoring {
  const steps = stepsOf(scoring.rubric.table).map(({ points }) => points);
  const criteria = scoring.criteria.map((one) => {
    const at = steps.indexOf(one.points ?? '') + (chance.happens(40) ? chance.whole(-1, 1) : 0);
    return { ...one, points: steps[Math.max(0, Math.min(steps.length - 1, at))] ?? one.points };
  });
  return { ...scoring, criteria };
}
