import { describe, expect, it } from 'vitest';
import { attachedFile, copyRow } from '../../../../tests/support/copies';
import { patchCopies } from './patch-copies';

const file = attachedFile();

describe('a copy with something attached, as it is patched', () => {
  const known = copyRow({ mask: '001', attached: [file], version: 4 });

  it('has it as one part more, whatever is written', () => {
    const written = {
      kind: 'written' as const,
      steps: null,
      page: 'copy',
      version: 5,
      copy: { mask: '10', words: 3, at: 9, loss: null },
    };
    expect(patchCopies([known], [written], 'tamsin')[0]?.mask).toBe('101');
    expect(patchCopies([copyRow({ mask: '00' })], [written], 'tamsin')[0]?.mask).toBe('10');
  });

  it('has not any more what was removed, also where the row that says so is older', () => {
    for (const version of [3, 4]) {
      const row = copyRow({ mask: '00', version });
      const news = { kind: 'copy' as const, page: 'copy', version, by: 'ada', row };
      const [patched] = patchCopies([known], [news], 'tamsin');
      expect(patched).toMatchObject({ mask: '00', attached: [] });
    }
  });
});
