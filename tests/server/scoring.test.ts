import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { RubricTable } from '../../src/lib/core/marking/rubric';
import type { ScoringSpec } from '../../src/lib/core/marking/scoring';
import { stateOf } from '../../src/lib/core/copy/state';
import { readCopy } from '../../src/lib/server/copy/facts';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, opened } from '../../src/lib/server/copy/moves';
import { readRecord } from '../../src/lib/server/copy/open-copy';
import { readFeedback, readScoring } from '../../src/lib/server/copy/scorings';
import { beginRubric, writeRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { inCourse, toMark, toSee, toWork } from '../support/grants';
import { assign, makeSchool, type TestSchool } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';

const test = useApp();
let server: Server;
let school: TestSchool;
let rubric: string;
let copy: string;
let assignment: string;
let student: string;

/** Two criteria of four points each. */
const TABLE: RubricTable = {
  levels: [4, 2, 1, 0],
  criteria: ['method', 'wording'].map((id) => ({
    id,
    title: id,
    descriptors: ['fine', 'fair', 'weak', 'none'],
  })),
};
const by = (method: string | null, wording: string | null, words = ''): ScoringSpec => ({
  criteria: [
    { id: 'method', points: method, words },
    { id: 'wording', points: wording, words: '' },
  ],
  overruled: null,
});
const given = (scoring: ScoringSpec, version = 0) => ({
  given: { scoring, rubric: { id: rubric, version } },
});
const marking = (person = school.teacher) => toMark(test.app, { page: copy, person });
const standing = () => readCopy(test.app.db, copy, school.teacher);

beforeAll(async () => {
  server = await Server.start(test.url);
});
afterAll(() => server.stop());
beforeEach(async () => {
  school = await makeSchool(test.app, 2);
  rubric = await beginRubric(
    test.app.db,
    await inCourse(test.app.db, school.course),
    { unit: null, title: 'Tides' },
    TABLE,
  );
  const assigned = await assign(test.app, school, { points: '10', rubric });
  [copy = ''] = assigned.copies;
  [student = ''] = school.students;
  assignment = assigned.assignment;
  await opened(test.app, await toSee(test.app, { page: copy, person: student }));
});
const visit = async (name: string) => {
  const visitor = new Visitor(server.origin);
  await visitor.signIn(`${name}${school.id}`);
  return visitor;
};

describe('a scoring by a rubric', () => {
  it('comes to points once every criterion has a level or a half step, and carries its share', async () => {
    await handIn(test.app, await toWork(test.app, { page: copy, person: student }), '');
    await score(test.app, await marking(), given(by('3', null)));
    expect(await standing()).toMatchObject({ points: null, facts: { scored: null } });
    await score(test.app, await marking(), given(by('3', '1.5')));
    // 4.5 of 8 is 5.625 of 10, half up in two places.
    const scored = await standing();
    expect([scored.points, stateOf(scored.facts)]).toEqual(['5.63', 'marked']);
    const overruled = { points: '7', reason: 'It was read aloud.' };
    await score(test.app, await marking(), given({ ...by('3', null), overruled }));
    expect((await standing()).points).toBe('7.00');
  });

  it('goes back as it was given, with the rubric as it was, and every scoring stays in the record', async () => {
    await handBack(test.app, await marking(), given(by('4', '1', 'Well reasoned.')));
    const course = await inCourse(test.app.db, school.course);
    const table = { ...TABLE, levels: [40, 20, 10, 0] };
    await writeRubric(test.app.db, course, rubric, { title: 'New', table, version: 0 });
    const back = await readFeedback(test.app.db, copy);
    expect(back?.scoring).toMatchObject({
      ...by('4', '1', 'Well reasoned.'),
      rubric: { title: 'Tides', table: TABLE },
    });
    await handIn(test.app, await toWork(test.app, { page: copy, person: student }), '');
    await score(test.app, await marking(school.marker), given(by('40', '20'), 1));
    // Five of eight and 60 of 80, of ten points; only the first went back.
    expect(await standing()).toMatchObject({ points: '7.5', pointsBack: '6.25' });
    expect((await readFeedback(test.app.db, copy))?.scoring?.rubric.title).toBe('Tides');
    await handBack(test.app, await marking(), null);
    expect((await standing()).pointsBack).toBe('7.5');
    expect((await readFeedback(test.app.db, copy))?.scoring?.rubric.title).toBe('New');
    const record = await readRecord(test.app, copy);
    expect(record.flatMap(({ scoring }) => scoring?.rubric.title ?? [])).toEqual(['Tides', 'New']);
  });

  it('is told to its student by no view, answer or stream until it goes back', async () => {
    const me = await visit('student1');
    const stop = new AbortController();
    const stream = await me.fetch('/live', { signal: stop.signal });
    let heard = '';
    const reader = stream.body?.pipeThrough(new TextDecoderStream()).getReader();
    const listening = (async () => {
      for (;;) {
        const read = await reader?.read();
        if (!read || read.done) return;
        heard += read.value;
      }
    })().catch(() => undefined);
    const teacher = await visit('teacher');
    const scoring = {
      ...by('3', '1.5', 'WORDSKEPT'),
      overruled: { points: '8.75', reason: 'WHYKEPT' },
    };
    const sent = await teacher.send(`/pages/${copy}/marking`, {
      move: 'score',
      given: { scoring, rubric: { id: rubric, version: 0 } },
      after: null,
    });
    expect(sent.status).toBe(200);
    const { score: id } = await sent.json();
    await teacher.send(`/pages/${copy}/threads`, { text: 'a sign that news came', anchor: null });
    const views = ['work', `work/${copy}`, `classes/${school.class}/plan`, 'mailbox'].map(
      (view) => `/${view}/__data.json`,
    );
    const asked = [
      ...views,
      ...['', '/feedback', '/standing', '/history', '/threads'].map(
        (what) => `/pages/${copy}${what}`,
      ),
      `/find?q=WORDSKEPT`,
    ];
    const told = async () =>
      (await Promise.all(asked.map(async (path) => (await me.fetch(path)).text()))).join('\n');
    const before = await told();
    for (const secret of ['WORDSKEPT', 'WHYKEPT', '8.75', `"score":"${id}"`])
      expect(before).not.toContain(secret);
    await expect.poll(() => heard).toContain('"threads"');
    expect(heard).not.toMatch(/KEPT|8\.75/);
    expect(heard).not.toContain(`"score":"${id}"`);
    await teacher.send(`/pages/${copy}/marking`, { move: 'hand back', given: null });
    const after = await told();
    for (const secret of ['WORDSKEPT', 'WHYKEPT', '8.75']) expect(after).toContain(secret);
    await expect.poll(() => heard).toContain('8.75');
    stop.abort();
    await listening;
  });

  it('is refused where it does not fit the rubric as it stands', async () => {
    const teacher = await visit('teacher');
    const send = async (scoring: object, version = 0, id = rubric) => {
      const body = { move: 'score', given: { scoring, rubric: { id, version } } };
      const answer = await teacher.send(`/pages/${copy}/marking`, body);
      return [answer.status, (await answer.json()).message];
    };
    expect(await send(by('2.5', null))).toEqual([422, expect.stringContaining('half-way')]);
    expect(await send(by('3', null), 1)).toEqual([
      409,
      expect.stringContaining('changed just now'),
    ]);
    const other = await send(by('3', null), 0, crypto.randomUUID());
    expect(other).toEqual([409, expect.stringContaining('changed just now')]);
    const overruled = { points: '7', reason: ' ' };
    expect(await send({ ...by('3', null), overruled })).toEqual([
      400,
      'Please say why other points count than the rubric’s.',
    ]);
    expect((await readRecord(test.app, copy)).filter(({ what }) => what === 'scored')).toEqual([]);
  });

  it('does not cover a score that its scorer has not seen: of twenty at once one is given', async () => {
    const people = [await visit('teacher'), await visit('marker')];
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        people[n % 2]?.send(`/pages/${copy}/marking`, {
          move: 'score',
          given: { points: `${n}` },
          after: null,
        }),
      ),
    );
    const statuses = answers.map((answer) => answer?.status);
    expect(statuses.filter((status) => status === 200)).toHaveLength(1);
    expect(new Set(statuses)).toEqual(new Set([200, 409]));
    const refused = answers.find((answer) => answer?.status === 409);
    expect((await refused?.json())?.message).toMatch(/scored this copy just now: .* points\./);
  });

  it('is not handed back by an earlier handing back that was written down later', async () => {
    await handBack(test.app, await marking(), given(by('4', '4')));
    // As if it had waited for the copy's lock since before: its time is older than the handing back.
    await test.app.db
      .insertInto('score')
      .values({
        school_id: school.id,
        page_id: copy,
        person_id: school.marker,
        points: '1',
        version: 0,
        at: new Date(Date.now() - 60_000),
      })
      .execute();
    expect((await standing()).pointsBack).toBe('10');
  });

  it('follows the assignment’s points, which one press makes equal to the rubric’s', async () => {
    await handBack(test.app, await marking(), given(by('4', '1')));
    expect((await standing()).points).toBe('6.25');
    const marker = await visit('marker');
    const path = `/classes/${school.class}/assignments/${assignment}/rubric-points`;
    expect((await marker.send(path, {})).status).toBe(403);
    expect((await (await visit('teacher')).send(path, {})).status).toBe(200);
    expect((await standing()).points).toBe('5');
    expect(
      (await readScoring(test.app.db, (await standing()).score))?.scoring?.criteria,
    ).toHaveLength(2);
  });

  it('goes back with points for work that was done elsewhere, though nobody opened the copy', async () => {
    const { copies } = await assign(test.app, school, { points: '10' });
    [copy = ''] = copies;
    await expect(handBack(test.app, await marking(), null)).rejects.toThrow('not been opened');
    await score(test.app, await marking(), { given: { points: '9' } });
    await handBack(test.app, await marking(), null);
    expect((await standing()).pointsBack).toBe('9.00');
    await score(test.app, await marking(), { given: { points: null } });
    expect(await standing()).toMatchObject({ points: null, pointsBack: '9.00' });
  });
});
