import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import writeExcelFile from 'write-excel-file/node';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Node } from 'prosemirror-model';
import { MOST_BLOCKS } from '../../src/lib/core/page/limits';
import { schema } from '../../src/lib/core/page/schema';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { assign, makeSchool, PASSWORD, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';
import { inCourse, newPage } from '../support/grants';

/** Made beforehand: making it takes its sender longer than reading it may take anybody. */
const farColumn = writeExcelFile(
  Array.from({ length: 60 }, () => [...Array<null>(16_383).fill(null), { value: 'x' }]),
).toBuffer();

const test = useApp();
let school: TestSchool;
let server: Server;
let teacher: Visitor;
let copy = '';
let rubric = '';

beforeAll(async () => {
  school = await makeSchool(test.app, 1);
  const { copies } = await assign(test.app, school, { guarded: false });
  copy = copies[0] ?? '';
  rubric = await beginRubric(test.app.db, await inCourse(test.app.db, school.course), {
    unit: null,
    title: 'R',
  });
  server = await Server.start(test.url);
  teacher = new Visitor(server.origin);
  await teacher.signIn(`teacher${school.id}`, PASSWORD);
});
afterAll(() => server.stop());

const pageOf = (paragraphs: number, text = '') =>
  Node.fromJSON(schema, {
    type: 'doc',
    content: Array.from({ length: paragraphs }, () => ({
      type: 'paragraph',
      ...(text ? { content: [{ type: 'text', text }] } : {}),
    })),
  });
const begin = (title: string, page: Node) =>
  newPage(
    test.app.db,
    {
      at: new Date(),
      title,
      in: { kind: 'original', course: school.course },
    },
    page,
  );
const steps = (page: string, list: object[], more: object = {}) =>
  teacher.send(`/pages/${page}/steps`, {
    base: 0,
    client: `client-${crypto.randomUUID().slice(0, 8)}`,
    first: 1,
    steps: list,
    ...more,
  });
const insert = (at: number, text: string) => ({
  stepType: 'replace',
  from: at,
  to: at,
  slice: { content: [{ type: 'text', text }] },
});
const nested = (levels: number) => {
  let inner: object = { type: 'paragraph' };
  for (let i = 0; i < levels; i++)
    inner = {
      type: 'bullet_list',
      content: [{ type: 'list_item', content: [{ type: 'paragraph' }, inner] }],
    };
  return inner;
};
async function document(name: string, text: string) {
  const body = new FormData();
  body.set('document', new File([text], name));
  return teacher.fetch(`/courses/${school.course}/import`, { method: 'POST', body });
}

const names = (count: number, line: (n: number) => string) =>
  `given,family\n${Array.from({ length: count }, (_, n) => line(n)).join('\n')}\n`;
async function roster(text: string) {
  const body = new FormData();
  body.set('roster', new File([text], 'roster.csv'));
  return teacher.fetch(`/classes/${school.class}/roster/compare`, { method: 'POST', body });
}

/** What was found to stop a server, or could have been; each with the answers it may get. */
const HEAVY: [string, () => Promise<Response | undefined>, number[]][] = [
  [
    'a number of 390,000 characters',
    async () => {
      const page = await begin(
        'Number',
        Node.fromJSON(schema, {
          type: 'doc',
          content: [{ type: 'answer_number', attrs: { id: 'n', unit: '' } }],
        }),
      );
      return steps(page, [insert(1, `1${' '.repeat(390_000)}x`)]);
    },
    [200],
  ],
  [
    '20,000 steps on as many paragraphs as a page takes',
    async () => {
      const page = await begin('Many', pageOf(MOST_BLOCKS));
      return steps(
        page,
        Array.from({ length: 20_000 }, () => insert(1, 'x')),
      );
    },
    [413],
  ],
  [
    '500 steps on as many',
    async () => {
      const page = await begin('Fewer', pageOf(MOST_BLOCKS));
      return steps(
        page,
        Array.from({ length: 500 }, (_, i) => insert(1 + i, 'x')),
      );
    },
    [200],
  ],
  [
    'steps beside as many of somebody else',
    async () => {
      const page = await begin('Both', pageOf(100));
      const many = Array.from({ length: 3_600 }, () => insert(1, 'x'));
      expect((await steps(page, many)).status).toBe(200);
      const answer = await steps(page, many);
      expect(await answer.clone().json()).toMatchObject({ version: 7_200, setAside: [] });
      return answer;
    },
    [200],
  ],
  [
    'lists nested a thousand deep',
    async () => steps(copy, [{ ...insert(0, ''), slice: { content: [nested(1000)] } }]),
    [422],
  ],
  ['a zero character', async () => steps(copy, [insert(1, 'a\0b')]), [422]],
  [
    'an address that cannot be read, and holds a character that is none',
    async () => teacher.send(`/pages/${copy}/threads/%ff%00`, {}),
    [400],
  ],
  [
    'an address that cannot be read, from a page of somebody else',
    async () =>
      teacher.fetch('/%ff', { method: 'POST', headers: { origin: 'https://elsewhere.example' } }),
    [400, 403],
  ],
  ['half a character', async () => steps(copy, [insert(1, 'a\ud800b')]), [422]],
  [
    'a page of 66,000 distinct words',
    async () => {
      const words = Array.from({ length: 66_000 }, (_, i) => `w${i.toString(36)}`).join(' ');
      return steps(await begin('Words', pageOf(1)), [insert(1, words)]);
    },
    [200, 413],
  ],
  [
    'a table whose one cell is the last of all columns and rows',
    async () => {
      const body = new FormData();
      body.set('table', new File([new Uint8Array(await farColumn)], 'r.xlsx'));
      return teacher.fetch(`/courses/${school.course}/rubrics/${rubric}?/read`, {
        method: 'POST',
        body,
        headers: { 'x-sveltekit-action': 'true' },
      });
    },
    [200, 413],
  ],
  [
    'HTML of as many paragraphs as a page takes',
    () => document('p.html', '<p>x</p>'.repeat(MOST_BLOCKS)),
    [201],
  ],
  ['HTML of 20,000 paragraphs', () => document('p.html', '<p>x</p>'.repeat(20_000)), [413]],
  [
    'HTML of 50,000 nested blocks',
    () => document('d.html', '<div>'.repeat(50_000) + 'x' + '</div>'.repeat(50_000)),
    [201, 413, 422],
  ],
  [
    'a roster of 500 names that a school of 5,000 does not know',
    async () => {
      await sql`insert into person (school_id, role, given, family, called, sign_in_name, password_hash)
        select ${school.id}, 'student', 'G' || md5('g' || n), 'F' || md5('f' || n), '', 'many' || n, ''
        from generate_series(1, 5000) n`.execute(test.app.db);
      const hash = (text: string) => createHash('md5').update(text).digest('hex');
      return roster(names(500, (n) => `X${hash(`x${n}`)},Y${hash(`y${n}`)}`));
    },
    [200],
  ],
  ['a roster of 9 MB', () => roster(names(450_000, () => 'Given,Family')), [413, 422]],
  [
    'a list of codes, each under the one before',
    async () => {
      const items = Array.from({ length: 9_999 }, (_, n) => `C${n},S,C${n - 1}`);
      const body = new FormData();
      body.set('list', new File([`code,statement,parent\n${items.join('\n')}\n`], 'codes.csv'));
      const answer = await teacher.fetch(`/courses/${school.course}/codes?/read`, {
        method: 'POST',
        body,
        headers: { 'x-sveltekit-action': 'true' },
      });
      expect(await answer.clone().json()).toMatchObject({ type: 'success' });
      return answer;
    },
    [200],
  ],
  [
    'a search over large pages',
    async () => {
      for (let i = 0; i < 3; i++) await begin(`Large ${i}`, pageOf(1, 'tide '.repeat(70_000)));
      await test.app.indexer.catchUp();
      return teacher.fetch('/find?q=tide');
    },
    [200],
  ],
  [
    'a search for signs',
    () => teacher.fetch(`/find?q=${encodeURIComponent("':*&|!()<->\\ '".repeat(10))}`),
    [200],
  ],
  [
    'a welcome link that is none, two hundred times',
    async () => {
      const tries = Array.from({ length: 200 }, () =>
        teacher.submit('/welcome/nothing', {
          school: 'x',
          given: 'x',
          family: 'x',
          signInName: 'xxx',
          password: 'x'.repeat(100),
        }),
      );
      const answers = await Promise.all(tries);
      return answers.at(-1);
    },
    [200],
  ],
];

describe('one request harms only itself', () => {
  /** A connection of its own: one that was kept may be closed while this machine stands still. */
  const ALONE = { headers: { connection: 'close' } };
  it.each(HEAVY)('%s', async (_what, send, allowed) => {
    const waits: number[] = [];
    let done = false;
    const watching = (async () => {
      while (!done) {
        const began = performance.now();
        expect((await fetch(`${server.origin}/health`, ALONE)).status).toBe(200);
        waits.push(performance.now() - began);
        await new Promise((resolve) => setTimeout(resolve, 5));
      }
    })();
    const answer = await send();
    done = true;
    await watching;
    const sorted = waits.sort((a, b) => a - b);
    process.stdout.write(
      `${_what}: ${answer?.status}, health ${sorted.at(-1)?.toFixed(0)} ms at worst of ${sorted.length}\n`,
    );
    expect(allowed).toContain(answer?.status);
  });

  it('and the search index goes on behind it', async () => {
    await test.app.indexer.catchUp();
    const page = await begin('Afterwards', pageOf(1, 'quokka'));
    await test.app.indexer.catchUp();
    const { found } = await (await teacher.fetch('/find?q=quokka')).json();
    expect(found).toMatchObject([{ to: `/editor/${page}` }]);
  });
});
