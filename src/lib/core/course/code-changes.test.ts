import { describe, expect, it } from 'vitest';
import { codesFromCsv } from '../formats/code-list';
import { codeChanges, type KeptCode } from './code-changes';

const kept = (code: string, statement: string, away = false): KeptCode => ({
  id: `${code}|${statement}`,
  code,
  statement,
  away,
});
const list = (...lines: string[]) => {
  const read = codesFromCsv('x', ['code,statement', ...lines].join('\n'));
  if ('fault' in read) throw new Error(read.fault);
  return read;
};

describe('a list of codes that is read again', () => {
  it('keeps the codes that it names, changes what they say, and names what is new and gone', () => {
    const was = [
      kept('A', 'over'),
      kept('B', 'old words'),
      kept('C', 'gone'),
      kept('D', 'x', true),
    ];
    expect(codeChanges(was, list('A,over', 'B,new words', 'E,new', 'D,x'))).toEqual({
      ids: ['A|over', 'B|old words', null, 'D|x'],
      added: 2,
      changed: 1,
      gone: ['C|gone'],
    });
  });

  it('changes nothing when it is the same, also where a code has no sign of its own', () => {
    const same = list('A,over', 'B,under');
    same.codes.push({ code: '', statement: 'A heading', parent: null });
    const was = [kept('A', 'over'), kept('B', 'under'), kept('', 'A heading')];
    expect(codeChanges(was, same)).toMatchObject({ added: 0, changed: 0, gone: [] });
  });

  it('takes two headings that say the same for two', () => {
    const twice = list('A,over');
    twice.codes.push(
      { code: '', statement: 'More', parent: null },
      { code: '', statement: 'More', parent: 0 },
    );
    const { ids } = codeChanges([kept('', 'More')], twice);
    expect(ids).toEqual([null, '|More', null]);
  });
});
