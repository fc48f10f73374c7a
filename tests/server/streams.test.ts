import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { News } from '../../src/lib/core/live/news';
import { schema } from '../../src/lib/core/page/schema';
import { closeClass } from '../../src/lib/server/class/open-class';
import { readCopy } from '../../src/lib/server/copy/facts';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { opened } from '../../src/lib/server/copy/moves';
import { NewsHub } from '../../src/lib/server/live/news-hub';
import { newsStream } from '../../src/lib/server/live/stream';
import { useApp } from '../support/app';
import { withdrawAs } from '../support/deeds';
import { inClass, newPage, toMark, toSee } from '../support/grants';
import { assign, makeSchool, PASSWORD, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let school: TestSchool;
const servers: Server[] = [];

beforeAll(async () => {
  school = await makeSchool(test.app, 2);
  servers.push(await Server.start(test.url), await Server.start(test.url));
});
afterAll(() => Promise.all(servers.map((server) => server.stop())));

async function visit(name: string, at = 0): Promise<Visitor> {
  const visitor = new Visitor(servers[at]?.origin ?? '');
  await visitor.signIn(`${name}${school.id}`, PASSWORD);
  return visitor;
}

/** A stream of news, and what tells when the server has ended it. */
async function listen(visitor: Visitor) {
  const stop = new AbortController();
  const answer = await visitor.fetch('/live', { signal: stop.signal });
  const reader = answer.body?.getReader();
  await reader?.read();
  const ended = (async () => {
    for (;;) if ((await reader?.read())?.done) return 'ended';
  })();
  return { status: answer.status, ended, stop: () => stop.abort() };
}

describe('a stream of news', () => {
  it('ends with its session, at whatever process, and with a disabled account', async () => {
    const here = await visit('student1');
    const stream = await listen(here);
    const elsewhere = await listen((await visit('student1')).moveTo(servers[1]?.origin ?? ''));
    expect((await here.fetch('/sign-out', { method: 'POST' })).status).toBe(204);
    expect(await stream.ended).toBe('ended');
    const office = await visit('office');
    await office.submit('/school?/disable', { person: school.students[0] ?? '', disabled: 'true' });
    expect(await elsewhere.ended).toBe('ended');
  });

  it('begins anew when its person becomes one of the staff of a class', async () => {
    const stranger = await visit('stranger');
    const stream = await listen(stranger);
    const teacher = await visit('teacher');
    await teacher.submit(`/classes/${school.class}/set-up?/staff`, {
      person: school.stranger,
      kind: 'marker',
    });
    expect(await stream.ended).toBe('ended');
  });

  it('is opened at most twenty times by one person', async () => {
    const teacher = await visit('marker');
    const streams = [];
    for (let i = 0; i < 20; i++) streams.push(await listen(teacher));
    const refused = await teacher.fetch('/live');
    expect(refused.status).toBe(429);
    for (const stream of streams) {
      stream.ended.catch(() => undefined);
      stream.stop();
    }
  });
});

/** What a visitor's stream says, as long as it is open. */
const heardBy = async (visitor: Visitor) => {
  const stop = new AbortController();
  const answer = await visitor.fetch('/live', { signal: stop.signal });
  const reader = answer.body?.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const reading = (async () => {
    for (;;) {
      const { value, done } = (await reader?.read()) ?? { done: true };
      if (done) return;
      text += value;
    }
  })().catch(() => undefined);
  const news = (): News[] =>
    text
      .split('\n')
      .filter((line) => line.startsWith('data: ['))
      .flatMap((line) => JSON.parse(line.slice(6)));
  await expect.poll(() => text).toContain('resync');
  return { news, stop: async () => (stop.abort(), reading) };
};

describe('news of a copy', () => {
  const copies = (news: News[]) => news.filter((one) => one.kind === 'copy');

  it('says to staff how it stands, and to its student no more than they may know', async () => {
    const [, student = ''] = school.students;
    const {
      assignment,
      copies: [, page = ''],
    } = await assign(test.app, school);
    const [teacher, mine, stranger] = [
      await heardBy(await visit('teacher')),
      await heardBy(await visit('student2')),
      await heardBy(await visit('other')),
    ];
    await opened(test.app, await toSee(test.app, { page, person: student }));
    await score(test.app, await toMark(test.app, { page, person: school.marker }), {
      given: { points: '3.5' },
    });
    const last = (news: News[]) => copies(news).at(-1)?.row;
    await expect.poll(() => last(teacher.news())?.points).toBe('3.50');
    await expect.poll(() => last(mine.news())?.openers).toEqual([student]);
    expect(JSON.stringify(mine.news())).not.toContain('3.50');
    await handBack(test.app, await toMark(test.app, { page, person: school.teacher }), {
      given: { points: '4' },
    });
    await expect.poll(() => last(mine.news())?.points).toBe('4.00');
    // What was withdrawn is no news to its student any more, and a closed class is none at all.
    await withdrawAs(test.app, school.teacher, assignment, school.class, true);
    const before = copies(mine.news()).length;
    await score(test.app, await toMark(test.app, { page, person: school.teacher }), {
      given: { points: '5' },
    });
    await expect.poll(() => last(teacher.news())?.points).toBe('5.00');
    expect(copies(mine.news())).toHaveLength(before);
    expect(stranger.news()).toEqual([]);
    for (const one of [teacher, mine, stranger]) await one.stop();
  });

  it('is published for each of two people who did something in the same moment', async () => {
    const [student = ''] = school.students;
    const {
      copies: [page = ''],
    } = await assign(test.app, school);
    const row = await readCopy(test.app.db, page, student);
    const heard: News[] = [];
    const leave = test.app.news.add({
      person: school.teacher,
      session: '',
      places: new Set([school.class]),
      studentOf: new Set(),
      hear: (text) => heard.push(...JSON.parse(text)),
      resync: () => undefined,
      close: () => undefined,
    });
    for (const by of [school.teacher, student])
      test.app.news.publish({
        news: { kind: 'copy', page, version: 0, by, row },
        places: [school.class],
      });
    await expect.poll(() => copies(heard).map(({ by }) => by)).toEqual([school.teacher, student]);
    leave();
  });

  it('ends for its students when their class closes', async () => {
    const stream = await listen(await visit('student2'));
    await closeClass(test.app, await inClass(test.app.db, school.class));
    expect(await stream.ended).toBe('ended');
  });
});

describe('a reader who takes nothing', () => {
  it('is let go, and what waits for them is thrown away', async () => {
    const hub = new NewsHub(test.app.db, test.url);
    let listening = true;
    const stream = newsStream(
      { person: 'x', session: 'x', places: new Set(['8C']), studentOf: new Set() },
      (listener) => {
        const remove = hub.add(listener);
        for (let i = 0; i < 1000 && listening; i++) listener.hear('x'.repeat(1000));
        return () => {
          listening = false;
          remove();
        };
      },
      async () => true,
    );
    const reader = stream.getReader();
    await expect(reader.read()).rejects.toThrow('takes no news');
    await hub.close();
  });
});

describe('news of a page that several share', () => {
  const write = (visitor: Visitor, page: string, base: number, client: string, first = 1) => {
    const slice = new Slice(Fragment.from(schema.text('!')), 0, 0);
    const steps = [new ReplaceStep(1, 1, slice).toJSON()];
    return visitor.send(`/pages/${page}/steps`, { base, client, first, lost: [], steps });
  };

  it('brings what was written to whoever is in the page and may read it, and to nobody else', async () => {
    const ours = await makeSchool(test.app, 2);
    const visitor = async (name: string) => {
      const one = new Visitor(servers[0]?.origin ?? '');
      await one.signIn(`${name}${ours.id}`, PASSWORD);
      return one;
    };
    const page = await newPage(test.app.db, {
      at: new Date(),
      title: 'All',
      in: { kind: 'class page', class: ours.class, area: 'worktable' },
    });
    const [writer, reader, teacher] = [
      await visitor('student1'),
      await visitor('student2'),
      await visitor('teacher'),
    ];
    const heard = { reader: await heardBy(reader), teacher: await heardBy(teacher) };
    const written = (who: keyof typeof heard) =>
      heard[who]
        .news()
        .flatMap((one) => (one.kind === 'written' && one.page === page ? [one] : []));
    const isIn = async () => (await reader.fetch(`/pages/${page}/steps?since=0`)).status;
    expect(await isIn()).toBe(200);
    expect((await write(writer, page, 0, 'one-client')).status).toBe(200);
    await expect
      .poll(() => written('reader'))
      .toMatchObject([
        { version: 1, steps: { base: 0, steps: [{ client: 'one-client', no: 1 }] } },
      ]);
    await expect.poll(() => written('teacher')).toMatchObject([{ version: 1, steps: null }]);
    // Two in the same moment are told as one.
    await isIn();
    await Promise.all([
      write(writer, page, 1, 'one-client', 2),
      write(teacher, page, 1, 'another-client'),
    ]);
    await expect.poll(() => written('reader').at(-1)?.version).toBe(3);
    const told = written('reader').flatMap(({ steps }) => steps?.steps ?? []);
    expect(told).toHaveLength(3);
    // The page is put away under their eyes: a moment later nothing of it is told any more.
    await test.app.db
      .updateTable('page')
      .set({ away_at: new Date() })
      .where('id', '=', page)
      .execute();
    expect(await isIn()).toBe(404);
    await new Promise((done) => setTimeout(done, 2100));
    expect((await write(teacher, page, 3, 'another-client', 2)).status).toBe(200);
    await expect.poll(() => written('reader').at(-1)?.version).toBe(4);
    expect(written('reader').at(-1)).toMatchObject({ steps: null });
    await heard.reader.stop();
    await heard.teacher.stop();
  });
});
