import { describe, expect, it } from 'vitest';
import { grantByRole } from '../../src/lib/server/access/in-the-name-of';
import {
  addPhrases,
  changePhrase,
  countUse,
  importPhrases,
  putPhraseAway,
  readPhrases,
} from '../../src/lib/server/phrasebook/phrases';
import { useApp } from '../support/app';
import { makeSchool } from '../support/school';

const test = useApp();

async function setUp() {
  const school = await makeSchool(test.app, 1);
  const grant = await grantByRole(test.app.db, 'keep a phrasebook', school.teacher);
  const other = await grantByRole(test.app.db, 'keep a phrasebook', school.marker);
  return { school, grant, other };
}

describe('a phrasebook', () => {
  it('holds each phrase once, whoever adds at the same time', async () => {
    const { grant } = await setUp();
    const added = await Promise.all(
      Array.from({ length: 20 }, () => addPhrases(test.app, grant, ['With its unit.'])),
    );
    expect(added.filter((count) => count === 1)).toHaveLength(1);
    expect(await readPhrases(test.app.db, grant)).toHaveLength(1);
  });

  it('is one’s own: a colleague changes, removes and uses nothing that is not shared', async () => {
    const { school, grant, other } = await setUp();
    await addPhrases(test.app, grant, ['Say why.']);
    const [phrase] = await readPhrases(test.app.db, grant);
    const id = phrase?.id ?? '';
    expect(await readPhrases(test.app.db, other)).toEqual([]);
    const stolen = { id, version: 0, text: 'Mine', course: null };
    await expect(changePhrase(test.app, other, stolen)).rejects.toThrow('changed elsewhere');
    await putPhraseAway(test.app, other, id, true);
    await countUse(test.app, other, id);
    await countUse(test.app, grant, id);
    await expect(
      changePhrase(test.app, other, { ...stolen, course: school.course }),
    ).rejects.toThrow('access to this course');
    expect(await readPhrases(test.app.db, grant)).toMatchObject([
      { text: 'Say why.', used: 1, away: false, version: 0 },
    ]);
    const used = await test.app.db.selectFrom('phrase_use').select('person_id').execute();
    expect(used).toEqual([{ person_id: school.teacher }]);
  });

  it('says when it was changed in another tab', async () => {
    const { school, grant } = await setUp();
    await addPhrases(test.app, grant, ['Say why.'], school.course);
    const id = (await readPhrases(test.app.db, grant))[0]?.id ?? '';
    const change = { id, version: 0, text: 'Say why, please.', course: null };
    await changePhrase(test.app, grant, change);
    await expect(changePhrase(test.app, grant, change)).rejects.toThrow('changed elsewhere');
  });

  it('takes a table in, and says what is wrong with one that is none', async () => {
    const { grant } = await setUp();
    expect(await importPhrases(test.app, grant, 'comment\nOne.\nTwo.\n')).toEqual({
      added: 2,
      there: 0,
      passed: [],
    });
    expect(await importPhrases(test.app, grant, 'comment\nOne.\nThree.\n')).toMatchObject({
      added: 1,
      there: 1,
    });
    await expect(importPhrases(test.app, grant, 'comment\n')).rejects.toThrow('no phrases');
    await expect(importPhrases(test.app, grant, 'a,"b\n')).rejects.toThrow();
    const many = Array.from({ length: 2001 }, (_, n) => `Phrase ${n}`).join('\n');
    await expect(importPhrases(test.app, grant, many)).rejects.toThrow('Nothing was added');
    expect(await readPhrases(test.app.db, grant)).toHaveLength(3);
  });
});
