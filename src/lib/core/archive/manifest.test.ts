import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DECLARATION, isDeclared, readManifest, writeManifest, writeTags } from './manifest';

const digest = 'a'.repeat(64);

describe('a manifest', () => {
  it('writes line ends and percent signs of paths as RFC 8493 has it (2.1.3)', () => {
    const text = writeManifest(new Map([['data/50%\nof\r.txt', digest]]));
    expect(text).toBe(`${digest}  data/50%25%0Aof%0D.txt\n`);
    expect(readManifest(text)?.get('data/50%\nof\r.txt')).toBe(digest);
  });

  it('is read as it was written, whatever the paths are', () => {
    const paths = fc.dictionary(
      fc.string({ minLength: 1 }).filter((path) => path === path.trimStart() && !/^\*/.test(path)),
      fc.constant(digest),
    );
    fc.assert(
      fc.property(paths, (record) => {
        const digests = new Map(Object.entries(record));
        expect(readManifest(writeManifest(digests))).toEqual(digests);
      }),
    );
  });

  it('is none with a broken line, or a path that stands there twice', () => {
    expect(readManifest('no digest\n')).toBeNull();
    expect(readManifest(`${digest}  data/a\n${digest}  data/a\n`)).toBeNull();
    // Written by md5sum-like tools for binary files.
    expect(readManifest(`${digest} *data/a\r\n`)?.size).toBe(1);
  });

  it('comes with a declaration that is known again', () => {
    expect(isDeclared(DECLARATION)).toBe(true);
    expect(isDeclared('BagIt-Version: 2.0\nTag-File-Character-Encoding: UTF-8\n')).toBe(false);
    expect(writeTags([['External-Description', 'two\nlines']])).toBe(
      'External-Description: two lines\n',
    );
  });
});
