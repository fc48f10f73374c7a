import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { schema } from '../../src/lib/core/page/schema';
import { guardedTextKept } from '../../src/lib/core/page/guard';
import { PageSession } from '../../src/lib/ui/page/page-session.svelte';
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
async function open(title: string, delay = 0) {
  const { copies } = await assign(test.app, school, { title, guarded: true });
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`student1${school.id}`);
  const copy = copies[0] ?? '';
  const { doc, version } = await (await visitor.fetch(`/pages/${copy}`)).json();
  const asked: string[] = [];
  const fetch = async (url: string, init?: RequestInit) => {
    asked.push(url);
    if (delay > 0) await new Promise((resolve) => setTimeout(resolve, delay));
    return visitor.fetch(url, init);
  };
  const start = { page: copy, doc, version, plugins: [], setAside: [], fetch };
  return { copy, asked, session: new PageSession(start) };
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

  it('is found among hundreds in few requests', async () => {
    const { copy, session, asked } = await open('Long absence');
    for (let n = 0; n < 400; n++)
      session.dispatch(session.state.tr.insert(PLACES.short + n, schema.text('w')));
    session.dispatch(session.state.tr.insert(PLACES.guarded, schema.text('NOT HERE')));
    for (let n = 0; n < 99; n++)
      session.dispatch(session.state.tr.insert(PLACES.short + 8 + n, schema.text('w')));
    await session.flush();
    const { doc } = await test.app.pages.open(copy);
    expect(doc.textContent).toContain('w'.repeat(499));
    expect(doc.textContent).not.toContain('NOT HERE');
    expect(asked.length).toBeLessThan(40);
    session.close();
  });
});

describe('what waits until words are saved', () => {
  it('waits as long as a slow network takes', async () => {
    const { copy, asked, session } = await open('Slowly', 4000);
    session.dispatch(session.state.tr.insert(PLACES.short, schema.text('slow')));
    // It is on its way already.
    await expect.poll(() => asked.length).toBe(1);
    await session.flush();
    expect((await test.app.pages.open(copy)).doc.textContent).toContain('slow');
    session.close();
  });
});
