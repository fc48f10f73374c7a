import { describe, expect, it } from 'vitest';
import { readColumn } from './read-column';

const students = [
  { id: 'a', given: 'Zoë', family: 'van Berg' },
  { id: 'b', given: 'Kai', family: 'Ilves' },
];

describe('a pasted column', () => {
  it('gives numbers, however the names and the points are written', () => {
    expect(readColumn('zoe van Berg, 14\nIlves Kai;11.5\n', students)).toEqual({ a: 14, b: 11.5 });
    expect(readColumn('van Berg, Zoë\t7,5\nNobody\t3', students)).toEqual({ a: 7.5 });
  });

  it('gives words where one value is no number', () => {
    expect(readColumn('Zoë van Berg;red\nKai Ilves;2', students)).toEqual({ a: 'red', b: '2' });
  });

  it('is empty where no line names a student with a value', () => {
    expect(readColumn('', students)).toEqual({});
    expect(readColumn('Kai Ilves\n;3\nSomebody;4', students)).toEqual({});
  });
});
