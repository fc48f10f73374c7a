import { Transform } from 'prosemirror-transform';
import { beforeEach, describe, expect, it } from 'vitest';
import { authorshipIn, momentIn } from '../../src/lib/core/history/moment';
import { schema } from '../../src/lib/core/page/schema';
import { setArea } from '../../src/lib/server/class/set-area';
import { beginAs } from '../../src/lib/server/copy/own-pages';
import { lookBack, viewHistory } from '../../src/lib/server/history/look-back';
import { nameVersion, putBack } from '../../src/lib/server/history/put-back';
import { useApp } from '../support/app';
import { inClass, newPage, toKeep, toLookBack, toPutBack } from '../support/grants';
import { makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let student = '';
let mate = '';

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  [student = '', mate = ''] = school.students;
});

let clients = 0;
async function type(
  page: string,
  text: string,
  by: { id: string; owner: boolean },
  pasted = false,
) {
  const { doc, version } = await test.app.pages.open(page);
  const { steps } = new Transform(doc).insert(PLACES.short, schema.text(text));
  await test.app.pages.append(page, by, {
    base: version,
    client: `client-no-${++clients}`,
    first: 1,
    lost: [],
    steps: steps.map((step) => ({
      stepType: '',
      ...step.toJSON(),
      ...(pasted ? { pasted: true } : {}),
    })),
  });
}

describe('looking back on an own page', () => {
  it('shows its student all of it, who puts back what was there; its staff look', async () => {
    const own = { school: school.id, class: school.class, student, title: 'Mine', unit: null };
    const page = await beginAs(test.app, own, questionPage());
    const me = { id: student, owner: true };
    await type(page, 'tide', me);
    const early = await test.app.pages.open(page);
    await type(page, 'ebb', me);
    // What was written before a page of a folio was shown stays its student’s own.
    await test.app.db.updateTable('page').set({ seen_from: 2 }).where('id', '=', page).execute();
    for (const person of [student, school.teacher]) {
      const grant = await toLookBack(test.app, { page, person });
      const history = await viewHistory(test.app, grant);
      expect(history).toMatchObject({
        first: 0,
        version: 2,
        line: [{ author: student, added: 7 }],
        kept: [{ version: 0, cause: 'begun' }],
        mayPutBack: person === student,
      });
      expect((await lookBack(test.app, grant, 0)).version).toBe(0);
    }
    const grant = await toPutBack(test.app, { page, person: student });
    await putBack(test.app, grant, { version: early.version });
    expect((await test.app.pages.open(page)).doc.eq(early.doc)).toBe(true);
    await expect(toPutBack(test.app, { page, person: school.teacher })).rejects.toThrow(
      'not do that with it',
    );
    await expect(toLookBack(test.app, { page, person: mate })).rejects.toThrow('no such page');
    // Nobody is told of what a student does with their own.
    const told = await test.app.db
      .selectFrom('message')
      .select('id')
      .where('cause', 'like', `put back ${page}%`)
      .execute();
    expect(told).toEqual([]);
  });

  it('that was put away is still to be looked back on, and not to be put back', async () => {
    const own = { school: school.id, class: school.class, student, title: 'Mine', unit: null };
    const page = await beginAs(test.app, own, questionPage());
    await type(page, 'tide', { id: student, owner: true });
    await test.app.db
      .updateTable('page')
      .set({ away_at: new Date(), seen_from: 1 })
      .where('id', '=', page)
      .execute();
    const grant = await toLookBack(test.app, { page, person: student });
    expect(await viewHistory(test.app, grant)).toMatchObject({ first: 0, mayPutBack: false });
  });
});

describe('looking back on a worktable', () => {
  const onTable = async () => {
    const page = await newPage(
      test.app.db,
      {
        at: new Date(),
        title: 'Shore walk',
        in: { kind: 'class page', class: school.class, area: 'cupboard' },
      },
      questionPage(),
    );
    const teacher = { id: school.teacher, owner: false };
    await type(page, 'a secret plan', teacher);
    await nameVersion(test.app, await toKeep(test.app, { page, person: school.teacher }), {
      version: 0,
      name: 'Before the plan',
    });
    await type(page, 'told: ', teacher);
    await setArea(test.app, await inClass(test.app.db, school.class), page, 'worktable');
    return page;
  };

  it('begins for students where it came into their sight, and shows who wrote what', async () => {
    const page = await onTable();
    await type(page, 'mine ', { id: student, owner: false });
    await type(page, 'copied ', { id: mate, owner: false }, true);
    const grant = await toLookBack(test.app, { page, person: student });
    const history = await viewHistory(test.app, grant);
    expect(history).toMatchObject({
      first: 2,
      version: 4,
      line: [
        { author: student, first: 3, last: 3, added: 5 },
        // What others pasted is a fact for their teacher.
        { author: mate, first: 4, last: 4, added: 7, pasted: [] },
      ],
      kept: [{ version: 2, cause: 'shown' }],
      staff: [],
      others: [],
      mayPutBack: false,
    });
    expect(history.kept[0]?.at).toBeGreaterThan(Date.now() - 60_000);
    await expect(lookBack(test.app, grant, 1)).rejects.toThrow('no such version');
    const stretch = await lookBack(test.app, grant, 3);
    expect(stretch).toMatchObject({ version: 2, made: { author: school.teacher } });
    expect(stretch.steps).toHaveLength(2);
    expect(JSON.stringify(stretch.steps)).not.toContain('pasted');
    const own = await lookBack(test.app, await toLookBack(test.app, { page, person: mate }), 4);
    expect(JSON.stringify(own.steps)).toContain('pasted');
    const held = await test.app.pages.open(page);
    expect(momentIn(stretch, 4).eq(held.doc)).toBe(true);
    expect(authorshipIn(stretch, 4)).toEqual(held.authorship());
    await expect(toPutBack(test.app, { page, person: student })).rejects.toThrow('no such page');
  });

  it('shows its staff all of it, what was pasted too', async () => {
    const page = await onTable();
    await type(page, 'copied ', { id: mate, owner: false }, true);
    const history = await viewHistory(
      test.app,
      await toKeep(test.app, { page, person: school.teacher }),
    );
    expect(history).toMatchObject({
      first: 0,
      line: [{ author: school.teacher }, { author: mate, pasted: [{ characters: 7 }] }],
      kept: [{ cause: 'begun' }, { cause: 'named', name: 'Before the plan' }],
      staff: [school.teacher],
      mayPutBack: true,
    });
  });

  it('is of the worktable alone: of a page on the shelf students see what it is', async () => {
    const page = await onTable();
    await setArea(test.app, await inClass(test.app.db, school.class), page, 'shelf');
    await expect(toLookBack(test.app, { page, person: student })).rejects.toThrow('no such page');
  });
});
