import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Chance } from '../../demo/chance';
import { schema } from '../../src/lib/core/page/schema';
import { textOfStep } from '../../src/lib/core/history/set-aside';
import { readSteps } from '../../src/lib/server/page/page-store';
import { packSteps, writeSnapshots } from '../../src/lib/server/page/write-changes';
import type { PageSession } from '../../src/lib/ui/page/page-session.svelte';
import { useApp } from '../support/app';
import {
  assign,
  makeSchool,
  questionPage,
  type Assigned,
  type TestSchool,
} from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let school: TestSchool;
let assigned: Assigned;
const servers: Server[] = [];

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  assigned = await assign(test.app, school, { guarded: false });
  servers.push(await Server.start(test.url), await Server.start(test.url));
});
afterAll(() => Promise.all(servers.map((server) => server.stop())));

/** One random edit of a page: words typed, words taken away, a paragraph cut in two. */
function edit(session: PageSession, chance: Chance, typed: string[]) {
  const { doc, tr } = session.state;
  const size = doc.content.size;
  const from = chance.whole(1, size - 1);
  if (chance.happens(30)) {
    const to = Math.min(size, from + chance.whole(1, 12));
    tr.deleteRange(from, to);
  } else {
    const place = doc.resolve(from);
    if (!place.parent.inlineContent) return;
    const word = `⟨${chance.whole(100_000, 999_999)}⟩`;
    tr.insert(from, schema.text(word));
    typed.push(word);
  }
  try {
    tr.doc.check();
  } catch {
    return;
  }
  if (tr.docChanged) session.dispatch(tr);
}

describe('five writers on one page, over HTTP, at two processes with one database', () => {
  it('all end at the same page, and nothing typed is missing from page, deletions and set-aside', async () => {
    const chance = new Chance(Number(process.env.SEED ?? 5));
    const copy = assigned.copies[0] ?? '';
    const sessions: PageSession[] = [];
    for (let i = 0; i < 5; i++) {
      const visitor = new Visitor(servers[i % 2]?.origin ?? '');
      await visitor.signIn(`${i % 3 === 0 ? 'student1' : 'teacher'}${school.id}`);
      sessions.push(await visitor.open(copy));
    }
    const typed: string[] = [];
    for (let round = 0; round < 60; round++) {
      for (const session of sessions) {
        for (let i = chance.whole(0, 3); i > 0; i--) edit(session, chance, typed);
        // Some talk at once and together, some stay behind for a while.
        if (chance.happens(60)) void session.hear();
      }
      if (round % 4 === 0) await Promise.all(sessions.slice(0, 3).map((session) => session.hear()));
    }
    for (let i = 0; i < 4; i++)
      for (const session of sessions) await session.flush().then(() => session.hear());
    for (const session of sessions) session.close();

    const kept = await test.app.pages.open(copy);
    for (const session of sessions) {
      expect(session.version).toBe(kept.version);
      expect(session.state.doc.eq(kept.doc)).toBe(true);
    }
    // The log takes in every word that was typed, or set it aside: what is gone from the page was deleted by a logged step.
    // What is packed is in it, too; some of it may have been by itself.
    await writeSnapshots(test.app.db, new Date(), [{ id: copy, school: school.id, held: kept }]);
    await packSteps(test.app.db, [copy]);
    const steps = await readSteps(test.app.db, copy, 0, kept.version);
    const aside = await test.app.db
      .selectFrom('set_aside')
      .select('words')
      .where('page_id', '=', copy)
      .execute();
    const { Step } = await import('prosemirror-transform');
    const known = [
      ...steps.map(({ body }) => textOfStep(Step.fromJSON(schema, body))),
      ...aside.map(({ words }) => words),
    ].join(' ');
    expect(typed.length).toBeGreaterThan(100);
    expect(typed.filter((word) => !known.includes(word))).toEqual([]);
    expect(known.match(/⟨\d+⟩/g)?.length).toBe(typed.length);
    expect(kept.doc.type).toBe(questionPage().type);
  });
});
