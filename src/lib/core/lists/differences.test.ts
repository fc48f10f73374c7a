import { describe, expect, it } from 'vitest';
import { emptyRubric } from '../marking/rubric';
import { describeRubric } from '../marking/describe-rubric';
import { plainSpec } from '../handout/spec';
import { describeHandOut } from '../handout/describe-hand-out';
import { differences } from './differences';

describe('what two people saved differently', () => {
  it('is named cell by cell for a rubric', () => {
    const mine = emptyRubric('a');
    const theirs = structuredClone(mine);
    theirs.criteria[0]?.descriptors.splice(1, 1, 'Names most signs');
    expect(
      differences(describeRubric('Charts', mine), describeRubric('Charts & lights', theirs)),
    ).toEqual([
      { what: 'Title', mine: 'Charts', theirs: 'Charts & lights' },
      { what: 'First criterion, 3 points', mine: '', theirs: 'Names most signs' },
    ]);
    expect(
      differences(describeRubric('x', mine), describeRubric('x', structuredClone(mine))),
    ).toEqual([]);
  });

  it('is named field by field for a hand-out', () => {
    const mine = plainSpec(crypto.randomUUID(), crypto.randomUUID(), {
      title: 'Tides',
      points: '10',
    });
    const theirs = { ...mine, points: '7.5', due: { kind: 'lesson' as const, nth: 2 } };
    expect(differences(describeHandOut(mine), describeHandOut(theirs))).toEqual([
      { what: 'Points', mine: '10', theirs: '7½' },
      { what: 'Due', mine: 'never', theirs: 'at the end of lesson 2' },
    ]);
  });
});
