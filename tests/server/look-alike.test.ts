import { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { beforeAll, describe, expect, it } from 'vitest';
import { schema } from '../../src/lib/core/page/schema';
import { grantOnAssignment } from '../../src/lib/server/access/in-the-name-of';
import { viewLookAlike } from '../../src/lib/server/class/look-alike';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES, type TestSchool } from '../support/school';

const test = useApp();
let school: TestSchool;
let copies: string[] = [];
let assignment = '';

beforeAll(async () => {
  school = await makeSchool(test.app, 3);
  ({ copies, assignment } = await assign(test.app, school));
});

async function write(student: number, text: string) {
  const page = copies[student] ?? '';
  const { doc, version } = await test.app.pages.open(page);
  const { steps } = new Transform(doc).insert(PLACES.writing, schema.text(text));
  await test.app.pages.append(
    page,
    { id: school.students[student] ?? '', owner: true },
    {
      base: version,
      client: `client-of-${student}`,
      first: 1,
      lost: [],
      steps: steps.map((step) => step.toJSON()),
    },
  );
}
const view = async (of: string[] = []) => {
  const thing = { assignment, class: school.class };
  return viewLookAlike(
    test.app.db,
    await grantOnAssignment(test.app.db, 'see the assignment', school.teacher, thing),
    of,
  );
};

describe('shared passages', () => {
  it('are none where everybody has the original alone', async () => {
    expect(await view()).toMatchObject({ copies: 3, passages: [], beside: null });
  });

  it('are what two wrote alike, seen side by side', async () => {
    const shared = 'The flood runs along the quay from the north and turns at the steps.';
    await write(0, `I saw this: ${shared}`);
    await write(1, 'Something else that nobody else has written in this class, not a word of it.');
    await write(2, shared.replaceAll(' ', '  ').toUpperCase());
    const [one = '', , other = ''] = copies;
    const { passages } = await view();
    expect(passages).toHaveLength(1);
    expect(passages[0]?.text.toLowerCase().replace(/ +/g, ' ')).toBe(
      shared.slice(0, -1).toLowerCase(),
    );
    expect(passages[0]?.copies.map(({ copy }) => copy).sort()).toEqual([one, other].sort());
    // Whichever is asked for first stands first, with its own places.
    for (const [left, right] of [
      [one, other],
      [other, one],
    ]) {
      const { beside } = await view([left ?? '', right ?? '']);
      expect([beside?.one.copy, beside?.other.copy]).toEqual([left, right]);
      const { from = 0, to = 0 } = beside?.passages[0]?.one ?? {};
      const page = Node.fromJSON(schema, beside?.one.doc);
      const says = page.textBetween(from, to).toLowerCase().replace(/ +/g, ' ');
      expect(says).toBe(shared.slice(0, -1).toLowerCase());
    }
    // Two that share nothing are not shown as if they did.
    expect((await view([one, copies[1] ?? ''])).beside).toBeNull();
  });
});
