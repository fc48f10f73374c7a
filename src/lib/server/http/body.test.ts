import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { readJson } from './body';

const Shape = z.object({ name: z.string().min(1, 'Give it a name.'), size: z.number() });
const read = (body: unknown) =>
  readJson(new Request('http://localhost', { method: 'POST', body: JSON.stringify(body) }), Shape);

describe('a body that does not fit', () => {
  it('is refused in the sentences of its shape, without the names of fields', async () => {
    await expect(read({ name: '', size: 2 })).rejects.toThrow(/^Give it a name\.$/);
    await expect(read({ name: '', size: 'x' })).rejects.toThrow(/^Give it a name\.$/);
  });

  it('says which field is wrong where no person chose it', async () => {
    await expect(read({ name: 'A', size: 'x' })).rejects.toThrow(
      /^The request could not .* size: /,
    );
    await expect(read([])).rejects.toThrow(/body: /);
  });

  it('is read when it fits', async () => {
    expect(await read({ name: 'A', size: 2, more: 1 })).toEqual({ name: 'A', size: 2 });
  });
});
