import type { App } from '../../src/lib/server/app';
import {
  grantByRole,
  grantOnAssignment,
  grantOnPage,
} from '../../src/lib/server/access/in-the-name-of';
import { scoreClassmates, withholdScoring } from '../../src/lib/server/copy/classmates';
import { dealAsBefore } from '../../src/lib/server/copy/deal-out';
import { dealToClassmatesAsBefore } from '../../src/lib/server/copy/deal-readers';
import { keepExample, putExampleAway } from '../../src/lib/server/copy/examples';
import { setFeedbackWaits } from '../../src/lib/server/copy/feedback-waits';
import { handBack, scoreApart } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { askOwnScoring, scoreOwn } from '../../src/lib/server/copy/own-scoring';
import { beginThread } from '../../src/lib/server/copy/threads';
import { addStamp } from '../../src/lib/server/phrasebook/stamps';
import { toComment, toMark, toSee, toWork } from './grants';
import { assign, type TestSchool } from './school';

/**
 * An assignment that everybody scores: three students their own copies and those of classmates, two of the staff one copy
 * apart; with examples and stamps. The first student’s copy is handed back.
 * @param rubric with one criterion, "c"
 */
export async function scoredByMany(
  app: App,
  school: TestSchool,
  { rubric, picture }: { rubric: string; picture: Buffer },
): Promise<void> {
  const { teacher, marker, students } = school;
  const { assignment, copies } = await assign(app, school, { rubric, title: 'Scored by many' });
  const [one = '', two = '', three = ''] = copies;
  const at = { assignment, class: school.class };
  const running = await grantOnAssignment(app.db, 'run the assignment', teacher, at);
  const marking = await grantOnAssignment(app.db, 'mark its copies', teacher, at);
  const given = (points: string, words: string) => ({
    scoring: { criteria: [{ id: 'c', points, words }], overruled: null },
    rubric: { id: rubric, version: 0 },
  });
  await askOwnScoring(app, running, true);
  await setFeedbackWaits(app, running, school.class, true);
  for (const [n, page] of [one, two, three].entries()) {
    const whose = { page, person: students[n] ?? '' };
    await opened(app, await toSee(app, whose));
    const own = { given: given('2', `I gave it two, says ${n}.`), after: null };
    await scoreOwn(app, await toWork(app, whose), own);
    await handIn(app, await toWork(app, whose), '');
  }
  await dealToClassmatesAsBefore(app, running, {
    named: true,
    readings: [
      { page: one, by: two, version: 0 },
      { page: one, by: three, version: 0 },
      { page: three, by: one, version: 0 },
    ],
  });
  const scoreAs = async (n: number, page: string, words: string) =>
    scoreClassmates(app, await grantOnPage(app, 'score a classmate', students[n] ?? '', page), {
      given: given('4', words),
      after: null,
    });
  await scoreAs(1, one, 'Well read, classmate.');
  await scoreAs(2, one, 'KEPT-BACK from a classmate');
  await scoreAs(0, three, 'What I gave another.');
  await withholdScoring(app, await toMark(app, { page: one, person: teacher }), {
    by: three,
    withheld: true,
  });
  await dealAsBefore(app, running, { copies: [{ copy: three, markers: [teacher, marker] }] });
  for (const [person, points] of [
    [teacher, '2'],
    [marker, '4'],
  ] as const)
    await scoreApart(app, await toMark(app, { page: three, person }), {
      given: given(points, 'KEPT-BACK, apart'),
    });
  await keepExample(app, marking, { copy: two, criterion: 'c', points: '2' });
  const other = await keepExample(app, marking, { copy: three, criterion: 'c', points: '4' });
  await putExampleAway(app, marking, other.id, true);
  const keeping = await grantByRole(app.db, 'keep a phrasebook', teacher);
  const own = await addStamp(app, keeping, { word: 'Seen at sea', picture });
  for (const [page, stamp] of [
    [one, { kind: 'own', id: own }],
    [two, { kind: 'own', id: own }],
    [one, { kind: 'drawn', name: 'eye' }],
  ] as const)
    await beginThread(app, await toComment(app, { page, person: teacher }), {
      text: 'Seen at sea',
      anchor: null,
      stamp,
      keptBack: page === one,
    });
  await handBack(app, await toMark(app, { page: one, person: teacher }), {
    given: given('4', 'All of it.'),
  });
}
