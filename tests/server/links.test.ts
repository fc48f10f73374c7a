import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { documentServer } from '../../standins/documents/documents';
import { attachLink, lookAgain, readAttachedPage } from '../../src/lib/server/attached/attach';
import { fetchLink, MOST_OF_LINK } from '../../src/lib/server/attached/fetch-link';
import { lookAtAttached } from '../../src/lib/server/attached/look-at';
import { grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import { readCopy } from '../../src/lib/server/copy/facts';
import { handIn } from '../../src/lib/server/copy/moves';
import { mendGaps, readGaps } from '../../src/lib/server/headcount/mend';
import { gapKey } from '../../src/lib/core/headcount/gap';
import { schema } from '../../src/lib/core/page/schema';
import { Node } from 'prosemirror-model';
import { useApp } from '../support/app';
import { inClass } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';

const listen = (server: Server): Promise<string> =>
  new Promise((resolve) =>
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      resolve(`http://127.0.0.1:${port}`);
    }),
  );

/** Inside the school's network, which nobody outside may reach. */
let reached = 0;
const inside = createServer((_request, answer) => {
  reached++;
  answer.end('a secret of the school');
});
/** The connection was refused here, before it was made. */
const NOT_ASKED = { cause: { message: expect.stringContaining('is not allowed') } };
let insideAt = '';
/** A service that leads wherever the address says, and answers oddly. */
const leads = createServer((request, answer) => {
  const url = new URL(request.url ?? '/', 'http://127.0.0.1');
  const to = url.searchParams.get('to');
  if (to !== null) answer.writeHead(302, { location: to }).end();
  else if (url.pathname === '/round') answer.writeHead(302, { location: '/round' }).end();
  else if (url.pathname === '/large') answer.end(Buffer.alloc(MOST_OF_LINK + 1000));
  else if (url.pathname === '/gone') answer.writeHead(404).end();
  else answer.end('fine');
});
let leadsAt = '';
const documents = documentServer();
let documentsAt = '';

beforeAll(async () => {
  [insideAt, leadsAt] = [await listen(inside), await listen(leads)];
});
afterAll(() => {
  for (const server of [inside, leads, documents]) {
    server.close();
    server.closeAllConnections();
  }
});

describe('what stands behind a link', () => {
  it.each([
    ['an address inside', () => insideAt],
    ['a name that stands for one', () => insideAt.replace('127.0.0.1', 'localhost')],
    ['the same in other digits', () => insideAt.replace('127.0.0.1', '2130706433')],
    ['one of IPv6', () => insideAt.replace('127.0.0.1', '[::1]')],
    ['one of IPv6 that stands for IPv4', () => insideAt.replace('127.0.0.1', '[::ffff:127.0.0.1]')],
    ['an address that means this machine', () => insideAt.replace('127.0.0.1', '0.0.0.0')],
    ['one of a private network', () => 'http://10.0.0.1/'],
    ['one for this network alone', () => 'http://169.254.169.254/latest/meta-data/'],
  ])('is not asked for at %s', async (_what, address) => {
    await expect(fetchLink(address(), '')).rejects.toMatchObject(NOT_ASKED);
    expect(reached).toBe(0);
  });

  it('is not asked for there after a redirect either, not even one of the trusted service', async () => {
    expect(Buffer.from((await fetchLink(`${leadsAt}/`, leadsAt)).bytes).toString()).toBe('fine');
    for (const to of [insideAt, insideAt.replace('127.0.0.1', 'localhost')])
      await expect(
        fetchLink(`${leadsAt}/?to=${encodeURIComponent(to)}`, leadsAt),
      ).rejects.toMatchObject(NOT_ASKED);
    expect(reached).toBe(0);
    await expect(fetchLink(`${leadsAt}/?to=file:///etc/passwd`, leadsAt)).rejects.toThrow(
      'no page of the web',
    );
  });

  it('is bounded: in redirects, in bytes, and where nothing answers', async () => {
    await expect(fetchLink(`${leadsAt}/round`, leadsAt)).rejects.toThrow('never arrives');
    const large = await fetchLink(`${leadsAt}/large`, leadsAt);
    expect(large).toMatchObject({ isCut: true, status: 200 });
    expect(large.bytes).toHaveLength(MOST_OF_LINK);
    const closed = createServer();
    const at = await listen(closed);
    closed.close();
    await expect(fetchLink(at, at)).rejects.toThrow('Nothing answers');
    expect((await fetchLink(`${leadsAt}/gone`, leadsAt)).status).toBe(404);
  });
});

describe('a link that is attached', () => {
  const test = useApp();
  beforeAll(async () => {
    documentsAt = await listen(documents);
    test.app.settings.DOCUMENTS_URL = documentsAt;
  });
  let school: TestSchool;
  let copy = '';
  let student = '';
  beforeEach(async () => {
    school = await makeSchool(test.app, 1);
    copy = (await assign(test.app, school)).copies[0] ?? '';
    student = school.students[0] ?? '';
  });
  const own = () => grantOnPage(test.app, 'do own work', student, copy);
  const link = async () => (await readCopy(test.app.db, copy, school.teacher)).attached[0];
  const manage = () => inClass(test.app.db, school.class);
  const change = (name: string) => fetch(`${documentsAt}/d/${name}`, { method: 'POST' });

  it('is looked at: one that others cannot open is a gap, until they can', async () => {
    await attachLink(test.app, await own(), `${documentsAt}/d/my-harbour`);
    await expect.poll(async () => (await link())?.found).toBe('cannot be opened');
    const [gap] = await readGaps(test.app, await manage());
    expect(gap).toMatchObject({ cause: 'cannot be opened', copy });
    await change('my-harbour');
    if (gap) await mendGaps(test.app, await manage(), [{ gap: gapKey(gap), deed: 'look' }]);
    await expect.poll(async () => (await link())?.found).toBe('fine');
    expect(await readGaps(test.app, await manage())).toEqual([]);
    await change('my-harbour');
  });

  it('is kept as it stood when it was handed in, and read as a page', async () => {
    await attachLink(test.app, await own(), `${documentsAt}/d/way-in`);
    await expect.poll(async () => (await link())?.found).toBe('fine');
    expect((await link())?.kept).toBeNull();
    await handIn(test.app, await own(), '');
    await expect.poll(async () => (await link())?.kept?.isPage).toBe(true);
    const id = (await link())?.id ?? '';
    const read = await grantOnPage(test.app, 'read the page', school.marker, copy);
    const { doc } = await readAttachedPage(test.app, read, { id, kept: true });
    expect(Node.fromJSON(schema, doc).textContent).toContain('until the crane stands clear');
    await expect(readAttachedPage(test.app, read, { id, kept: false })).rejects.toThrow(
      'no such page',
    );
  });

  it('is none that leads inside, is nonsense, or was removed; nobody else looks', async () => {
    await expect(attachLink(test.app, await own(), 'javascript:alert(1)')).rejects.toThrow('http');
    await attachLink(test.app, await own(), insideAt);
    await expect.poll(async () => (await link())?.found).toBe('cannot be opened');
    const id = (await link())?.id ?? '';
    const stranger = await makeSchool(test.app, 1);
    const theirs = (await assign(test.app, stranger)).copies[0] ?? '';
    const grant = await grantOnPage(test.app, 'comment', stranger.teacher, theirs);
    await expect(lookAgain(test.app, grant, id)).rejects.toThrow('no such link');
    // A job that comes late finds nothing to do.
    await lookAtAttached(test.app, { attachment: crypto.randomUUID(), keep: true });
  });
});
