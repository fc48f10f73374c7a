import { describe, expect, it } from 'vitest';
import { sayStamp, type CommentView } from './threads';

const comment = (kind: CommentView['kind'], text = ''): CommentView => ({
  id: '1',
  kind,
  text,
  file: null,
  by: 'Ms Orrey',
  own: false,
  byStudent: false,
  keptBack: false,
  at: 0,
});

describe('a stamp', () => {
  it('says its word, also when it was settled and opened before that was changed', () => {
    expect(sayStamp([comment('said', 'Well seen')])).toBe('Stamp of Ms Orrey: Well seen');
    const changed = [comment('settled'), comment('opened again'), comment('said', 'Well drawn')];
    expect(sayStamp(changed)).toBe('Stamp of Ms Orrey: Well drawn');
    expect(sayStamp([])).toBe('Stamp');
  });
});
