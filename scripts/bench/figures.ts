import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { ORIGINALS } from '../../demo/originals';
import type { StepsMessage } from '../../src/lib/core/page/protocol';
import { schema } from '../../src/lib/core/page/schema';
import { startApp, type App } from '../../src/lib/server/app';
import { beginSession, SESSION_COOKIE } from '../../src/lib/server/access/session';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { openCopy } from '../../src/lib/server/copy/open-copy';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { readSettings } from '../../src/lib/server/settings';
import { administer } from '../../tests/support/database';
import { assign, makeSchool, type Assigned, type TestSchool } from '../../tests/support/school';
import { Server } from '../../tests/support/server';
import { fillDemo } from '../lib/project.mjs';
import { Visitor } from '../../tests/support/visitor';
import { archive2400 } from './archives';
import { build500, findP95, oneRoster5000 } from './classes';
import { collect500 } from './collecting';
import { handOut40 } from './handing-out';
import { makeBarePage, timeBareCopies } from './bare-copies';
import { figure, quantile } from './figure';
import { appendBoards } from './boards';
import { large } from './large';
import { marking } from './marking';
import { moment20000 } from './moments';
import { typingFrames } from './typing';
import { writers40 } from './writers';
import { desk10, gradebook50x40, newsBoard, viewBytes } from './views';

const quick = process.argv.includes('--quick');
/** Named after `--only`: just the figures that begin so. */
const only = process.argv[process.argv.indexOf('--only') + 1];
const wanted = (name: string) => !process.argv.includes('--only') || name.startsWith(only ?? '');
const base = process.env.BENCH_SERVER_URL ?? '';
const STUDENTS = 1500;

/** Where the first long writing of a page begins. */
function writingPlace(page: Node): number {
  let place = 0;
  page.descendants((node, pos) => {
    if (node.type.name === 'answer_writing' && !place) place = pos + 2;
  });
  return place;
}

const twelfths = ORIGINALS.find(({ key }) => key === 'twelfths');
if (!twelfths) throw new Error('no original');
const page = twelfths.page;
const place = writingPlace(page);
/** A burst of typing: what one batch of an ordinary writer holds. */
const STEPS_IN_BATCH = 3;

class Typist {
  base = 0;
  private first = 1;
  private readonly client = randomUUID().slice(0, 18);

  message(): StepsMessage {
    const steps = Array.from({ length: STEPS_IN_BATCH }, (_, i) => {
      const at = place + this.first - 1 + i;
      return new ReplaceStep(at, at, new Slice(Fragment.from(schema.text('a')), 0, 0)).toJSON();
    });
    const message = { base: this.base, client: this.client, first: this.first, lost: [], steps };
    this.base += STEPS_IN_BATCH;
    this.first += STEPS_IN_BATCH;
    return message;
  }
}

/** Runs workers side by side for a time. @returns how many rounds a second they did together */
async function saturate(
  workers: number,
  seconds: number,
  round: (worker: number) => Promise<void>,
): Promise<number> {
  const end = performance.now() + seconds * 1000;
  const began = performance.now();
  let rounds = 0;
  await Promise.all(
    Array.from({ length: workers }, async (_, worker) => {
      while (performance.now() < end) {
        await round(worker);
        rounds += 1;
      }
    }),
  );
  return (rounds * 1000) / (performance.now() - began);
}

/** The very rows of a batch, inserted with nothing around them. */
async function bareInserts(
  app: App,
  school: TestSchool,
  assigned: Assigned,
  seconds: number,
  workers: number,
) {
  await sql`create table if not exists bare_step (like step including all)`.execute(app.db);
  await sql`truncate bare_step`.execute(app.db);
  const typists = Array.from({ length: workers }, () => new Typist());
  return saturate(workers, seconds, async (worker) => {
    const message = typists[worker]?.message();
    if (!message) return;
    const rows = message.steps.map((body, i) => ({
      page_id: assigned.copies[worker],
      version: message.base + i + 1,
      school_id: school.id,
      author_id: school.students[worker],
      at: new Date(),
      client: message.client,
      client_no: message.first + i,
      body,
    }));
    await sql`insert into bare_step (page_id, version, school_id, author_id, at, client, client_no, body)
      select * from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(page_id uuid, version int,
        school_id int, author_id uuid, at timestamptz, client text, client_no int, body jsonb)`.execute(
      app.db,
    );
  });
}

async function appendSaturation(app: App, school: TestSchool) {
  const workers = 40;
  const seconds = quick ? 2 : 5;
  const bare: number[] = [];
  const full: number[] = [];
  // In turn, so that both see the same machine.
  for (let turn = 0; turn < (quick ? 2 : 3); turn++) {
    const assigned = await assign(app, school, { page });
    bare.push(await bareInserts(app, school, assigned, seconds, workers));
    const typists = Array.from({ length: workers }, () => new Typist());
    full.push(
      await saturate(workers, seconds, async (worker) => {
        const message = typists[worker]?.message();
        const writer = { id: school.students[worker] ?? '', owner: true };
        if (message) await app.pages.append(assigned.copies[worker] ?? '', writer, message);
      }),
    );
  }
  const mean = (values: number[]) =>
    (values.reduce((sum, value) => sum + value, 0) / values.length) * STEPS_IN_BATCH;
  figure('append.saturation', mean(full), 'steps/s', mean(bare));
}

/**
 * Writers over HTTP, each at its own pace, spread evenly. The load runs in this process, on the same machine.
 * Each opens the copy first, as a browser does, and what is sent in the first seconds warms the server up.
 */
async function appendLatency(
  server: Server,
  app: App,
  school: TestSchool,
  writers: number,
  every: number,
) {
  const seconds = quick ? 4 : 15;
  const assigned = await assign(app, school, { page });
  const writing = await signedIn(server, app, school, writers);
  for (const [index, visitor] of writing.entries())
    await (await visitor.fetch(`/pages/${assigned.copies[index]}`)).arrayBuffer();
  const times: number[] = [];
  const warm = performance.now() + 5000;
  const end = warm + seconds * 1000;
  await Promise.all(
    writing.map(async (visitor, index) => {
      const typist = new Typist();
      let next = performance.now() + (every * index) / writers;
      while (next < end) {
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, next - performance.now())));
        // Counted from when it was to be sent: a writer who waits for a slow answer is not counted as fast.
        const answer = await visitor.send(
          `/pages/${assigned.copies[index]}/steps`,
          typist.message(),
        );
        await answer.arrayBuffer();
        if (answer.status !== 200) throw new Error(`append answered ${answer.status}`);
        if (next > warm) times.push(performance.now() - next);
        next += every;
      }
    }),
  );
  figure(`append.p95.${writers}`, quantile(times, 0.95), 'ms');
}

/** A browser of somebody, signed in without the slow comparing of passwords, which is not measured here. */
async function enter(server: Server, app: App, school: TestSchool, id: string) {
  const { token } = await beginSession(app.db, { id, school_id: school.id }, Date.now());
  return new Visitor(server.origin, `${SESSION_COOKIE}=${token}`);
}

/** Browsers of the first students. */
const signedIn = (server: Server, app: App, school: TestSchool, count: number) =>
  Promise.all(school.students.slice(0, count).map((id) => enter(server, app, school, id)));

async function handOut1500(app: App, school: TestSchool) {
  const { original } = await assign(app, school, { page });
  const spec = plainSpec(original, school.class, { title: 'All', points: '10' });
  const checked = await CheckedSpec.check(app, school.teacher, spec);
  const bareTimes: number[] = [];
  const fullTimes: number[] = [];
  await makeBarePage(app.db);
  for (let turn = 0; turn < (quick ? 3 : 7); turn++) {
    const id = randomUUID();
    const then = performance.now();
    const { copies } = await handOut(app, checked, { id, at: new Date() });
    fullTimes.push(performance.now() - then);
    if (copies.length !== STUDENTS) throw new Error(`${copies.length} copies`);
    const bare = { assignment: id, original, classes: [school.class] };
    bareTimes.push(await timeBareCopies(app.db, bare));
  }
  figure('handout.1500', quantile(fullTimes, 0.5), 'ms', quantile(bareTimes, 0.5));
  await handOut40(app, school, original, quick ? 3 : 7);
}

async function openP95(app: App, school: TestSchool, url: string) {
  const assigned = await assign(app, school, { page });
  const count = quick ? 60 : 200;
  const copies = assigned.copies.slice(0, count);
  await Promise.all(
    copies.map(async (copy, i) => {
      const typist = new Typist();
      const writer = { id: school.students[i] ?? '', owner: true };
      for (let batch = 0; batch < Math.ceil((i % 100) / 10) * 10; batch++)
        await app.pages.append(copy, writer, typist.message());
    }),
  );
  // A process that holds none of them in memory: each is read from its snapshot and the steps after it.
  const cold = await startApp({ ...app.settings, DATABASE_URL: url });
  const times: number[] = [];
  for (const [i, copy] of copies.entries()) {
    const began = performance.now();
    await openCopy(cold, copy, { id: school.students[i] ?? '', role: 'student' });
    times.push(performance.now() - began);
  }
  await cold.close();
  figure('open.p95', quantile(times, 0.95), 'ms');
}

const name = `bench_${process.pid}`;
await administer(base, `create database ${name}`);
const url = base.replace(/[^/]+$/, name);
const app = await startApp(
  readSettings({ DATABASE_URL: url, LOG_LEVEL: 'silent', DATABASE_CONNECTIONS: '20' }),
);
const school = await makeSchool(app, STUDENTS);
if (wanted('append.saturation')) await appendSaturation(app, school);
if (wanted('handout.1500')) await handOut1500(app, school);
if (wanted('open.p95')) await openP95(app, school, url);
if (wanted('append.p95')) {
  const server = await Server.start(url);
  await appendLatency(server, app, school, 400, 1000);
  await appendLatency(server, app, school, 40, 400);
  await server.stop();
}
if (wanted('append.boards')) {
  const server = await Server.start(url);
  await appendBoards(app, school, page, {
    visitor: (id) => enter(server, app, school, id),
    typist: () => new Typist(),
    seconds: quick ? 4 : 15,
  });
  await server.stop();
}
if (wanted('gradebook.50x40')) await gradebook50x40(app, school, page);
if (wanted('desk.10')) await desk10(app, school, page);
if (wanted('news.board')) {
  const typists = new Map<string, Typist>();
  await newsBoard(app, school, page, (copy, id) => {
    const typist = typists.get(copy) ?? new Typist();
    typists.set(copy, typist);
    return app.pages.append(copy, { id, owner: true }, typist.message());
  });
}
if (wanted('view.')) {
  const demo = base.replace(/[^/]+$/, `${name}_demo`);
  await administer(base, `create database ${name}_demo`);
  fillDemo(demo);
  await viewBytes(demo);
}
if (wanted('archive.')) await archive2400(app, url, school, page, place);
if (wanted('writers.40')) {
  const server = await Server.start(url);
  await writers40(app, school, await signedIn(server, app, school, 40), quick ? 15 : 60);
  await server.stop();
}
if (wanted('moment.') || wanted('authorship.') || wanted('step.'))
  await moment20000(app, school, page, place);
if (wanted('typing.')) await typingFrames(app, url, school);
if (wanted('collect.')) await collect500(app, school, page);
if (['marking.', 'parts.', 'recheck.'].some(wanted)) await marking(app, school);
if (wanted('build.500')) await build500(app, school, page);
if (wanted('oneroster.5000')) await oneRoster5000();
// Their schools take a while to make.
if (!quick && ['board.large', 'desk.large', 'asof.large', 'large'].some(wanted))
  await large(app, school, page, place);
if (wanted('find.p95') && !quick)
  await findP95(app, school, (await assign(app, school, { page })).original);
await app.close();
await administer(base, `drop database ${name} with (force)`);
