import { beforeEach, describe, expect, it } from 'vitest';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { schema } from '../../src/lib/core/page/schema';
import { grantInClass, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import {
  addFolioPage,
  changeFolio,
  renameOwnPage,
  viewFolio,
  viewFolios,
  viewOwnFolio,
  type FolioMove,
} from '../../src/lib/server/copy/folio';
import { putOwnPageAway } from '../../src/lib/server/copy/own-pages';
import { newsSince } from '../../src/lib/server/page/exchange';
import { useApp } from '../support/app';
import { makeSchool, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let ada: string;
let finn: string;

beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  [ada = '', finn = ''] = school.students;
});
const own = (person = ada) =>
  grantInClass(test.app.db, 'manage own workbook', person, school.class);
const seeing = (person: string) =>
  grantInClass(test.app.db, 'see the folios', person, school.class);
const add = async (title: string) => addFolioPage(test.app, await own(), title);
const change = async (page: string, move: FolioMove, person = ada) =>
  changeFolio(test.app, await own(person), page, move);
const mine = async () => {
  const grant = await grantInClass(test.app.db, 'see own workbook', ada, school.class);
  const { cover, pages } = await viewOwnFolio(test.app, grant);
  return [cover?.title, ...pages.map(({ title, folio }) => `${title}: ${folio}`)];
};
const seen = async (person: string) => {
  const { cover, pages } = await viewFolio(test.app, await seeing(person), ada);
  return [cover?.title, ...pages.map(({ title }) => title)];
};
async function write(page: string, text: string) {
  const { version } = await test.app.pages.open(page);
  const slice = new Slice(Fragment.from(schema.text(text)), 0, 0);
  const steps = [new ReplaceStep(1, 1, slice).toJSON()];
  const client = `client-${page.slice(0, 8)}-${version}`;
  await test.app.pages.append(
    page,
    { id: ada, owner: true },
    { base: version, client, first: 1, lost: [], steps },
  );
}

describe('a folio', () => {
  it('begins with its cover; its pages have an order, and are hidden until they are shown', async () => {
    const cover = await add('My sea book');
    const [one, two, three] = [await add('One'), await add('Two'), await add('Three')];
    expect(await mine()).toEqual(['My sea book', 'One: hidden', 'Two: hidden', 'Three: hidden']);
    await change(three, 'up');
    await change(three, 'up');
    await change(three, 'up');
    await change(one, 'down');
    await change(two, 'show');
    expect(await mine()).toEqual(['My sea book', 'Three: hidden', 'Two: shown', 'One: hidden']);
    expect(await seen(finn)).toEqual(['My sea book', 'Two']);
    expect(await seen(school.teacher)).toEqual(['My sea book', 'Three', 'Two', 'One']);
    await change(three, 'take out');
    await change(two, 'hide');
    await renameOwnPage(test.app, await own(), cover, 'Sea');
    expect(await mine()).toEqual(['Sea', 'Two: hidden', 'One: hidden']);
    await change(three, 'add');
    expect(await mine()).toEqual(['Sea', 'Two: hidden', 'One: hidden', 'Three: hidden']);
  });

  it('is read by classmates as far as it is shown, from then on and not how it came to be', async () => {
    await add('My sea book');
    const page = await add('Draft');
    await write(page, 'A secret. ');
    const asFinn = () => grantOnPage(test.app, 'read the page', finn, page);
    await expect(asFinn()).rejects.toThrow();
    await change(page, 'show');
    const grant = await asFinn();
    for (const line of [
      'write the page',
      'comment',
      'take a copy of the page',
      'read the comments',
    ] as const)
      expect(grant.may(line), line).toBe(false);
    expect(() => newsSince(test.app, grant, 0)).toThrow('shown anew');
    expect((await newsSince(test.app, grant, 1)).steps).toEqual([]);
    await change(page, 'hide');
    await expect(asFinn()).rejects.toThrow();
    await change(page, 'show');
    await putOwnPageAway(test.app, await own(), page, true);
    await expect(asFinn()).rejects.toThrow();
    const outside = grantOnPage(test.app, 'read the page', school.otherStudent, page);
    await expect(outside).rejects.toThrow();
  });

  it('is changed by its student alone', async () => {
    await add('My sea book');
    const page = await add('Mine');
    await expect(change(page, 'show', finn)).rejects.toThrow('no such page');
    await expect(
      grantInClass(test.app.db, 'manage own workbook', school.teacher, school.class),
    ).rejects.toThrow();
    const cover = (
      await viewOwnFolio(
        test.app,
        await grantInClass(test.app.db, 'see own workbook', ada, school.class),
      )
    ).cover?.id;
    await expect(change(cover ?? '', 'hide')).rejects.toThrow('not one of your folio');
    await renameOwnPage(test.app, await own(finn), page, 'Stolen');
    expect(await mine()).toContain('Mine: hidden');
  });

  it('has one cover, though twenty are begun at once, or one comes back beside another', async () => {
    await Promise.all(Array.from({ length: 20 }, (_, n) => add(`Cover ${n}`)));
    const [cover, ...pages] = await mine();
    expect(cover).toMatch(/^Cover/);
    expect(pages).toHaveLength(19);
    const first = (
      await viewOwnFolio(
        test.app,
        await grantInClass(test.app.db, 'see own workbook', ada, school.class),
      )
    ).cover?.id;
    await putOwnPageAway(test.app, await own(), first ?? '', true);
    expect((await mine())[0]).toBeUndefined();
    await expect(viewFolio(test.app, await seeing(finn), ada)).rejects.toThrow('no folio yet');
    await add('Another');
    await putOwnPageAway(test.app, await own(), first ?? '', false);
    expect((await mine())[0]).toBe('Another');
    expect(await mine()).toContain(`${cover}: hidden`);
  });

  it('is listed for the staff with what is hidden, and for classmates without', async () => {
    await add('My sea book');
    const [shown] = [await add('One'), await add('Two')];
    await change(shown, 'show');
    const staff = await viewFolios(test.app, await seeing(school.marker));
    expect(staff.folios.map(({ title, shown, hidden }) => [title, shown, hidden])).toEqual([
      ['My sea book', 1, 1],
      [null, 0, 0],
    ]);
    const classmate = await viewFolios(test.app, await seeing(finn));
    expect(classmate.folios).toMatchObject([{ title: 'My sea book', shown: 1, hidden: 0 }]);
    await expect(seeing(school.otherStudent)).rejects.toThrow();
  });
});
