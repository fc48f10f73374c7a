import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { schema } from '../../src/lib/core/page/schema';
import { guardedTextKept } from '../../src/lib/core/page/guard';
import { useApp } from '../support/app';
import { assign, makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let school: TestSchool;
let server: Server;

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  server = await Server.start(test.url);
});
afterAll(() => server.stop());

/** A copy whose text is guarded, while its student's browser does not know of it yet. */
async function open(title: string) {
  const { copies } = await assign(test.app, school, { title, guarded: true });
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`student1${school.id}`);
  return { copy: copies[0] ?? '', session: await visitor.open(copies[0] ?? '') };
}

describe('a change that the server refuses', () => {
  it('is taken out of the page, and what was written before and after is saved', async () => {
    const { copy, session } = await open('Guarded meanwhile');
    const type = (at: number, text: string) =>
      session.dispatch(session.state.tr.insert(at, schema.text(text)));
    type(PLACES.short, 'before');
    type(PLACES.guarded, 'NOT HERE');
    type(PLACES.short + 'NOT HERE'.length, 'and ');
    await session.flush();
    const { doc } = await test.app.pages.open(copy);
    expect(session.save).toBe('saved');
    expect(session.state.doc.eq(doc)).toBe(true);
    expect(doc.textContent).toContain('and before');
    expect(doc.textContent).not.toContain('NOT HERE');
    session.close();
  });

  it('never stops what is allowed, wherever it stands among others', async () => {
    const { copy, session } = await open('At random');
    const chance = new Chance(Number(process.env.SEED ?? 11));
    for (let round = 0; round < 12; round++) {
      for (let n = chance.whole(1, 5); n > 0; n--) {
        const { doc, tr } = session.state;
        const at = chance.whole(1, doc.content.size - 1);
        if (!doc.resolve(at).parent.inlineContent) continue;
        session.dispatch(
          chance.happens(25) && doc.resolve(at).parentOffset > 0
            ? tr.delete(at - 1, at)
            : tr.insert(at, schema.text('w')),
        );
      }
      await session.flush();
      expect(session.save).toBe('saved');
    }
    const { doc } = await test.app.pages.open(copy);
    expect(session.state.doc.eq(doc)).toBe(true);
    expect(guardedTextKept(questionPage(), doc)).toBe(true);
    session.close();
  });
});
