import { expect, it } from 'vitest';
import { reachedSoFar } from './reached';

it('what each reached so far is the mean share of the points, shared work counting for all who share it', () => {
  const scores = [
    { members: ['ada'], points: '7.5', most: '10' },
    { members: ['ada', 'finn'], points: '2', most: '8' },
    { members: ['finn'], points: '3', most: '0' },
  ];
  expect(reachedSoFar(scores)).toEqual({ ada: 0.5, finn: 0.25 });
  expect(reachedSoFar([])).toEqual({});
});
