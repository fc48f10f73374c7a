import { setTimeout as pause } from 'node:timers/promises';
import type { Node } from 'prosemirror-model';
import { plainSpec } from '../../src/lib/core/handout/spec';
import type { StepsMessage } from '../../src/lib/core/page/protocol';
import type { App } from '../../src/lib/server/app';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { newPage } from '../../tests/support/grants';
import { addPerson, type TestSchool } from '../../tests/support/school';
import type { Visitor } from '../../tests/support/visitor';
import { figure, quantile } from './figure';
import { listen } from './listen';
import { makeClasses } from './views';

const [CLASSES, SIZE, WRITERS, EVERY] = [60, 25, 400, 1000];

/**
 * A board open for each of 60 classes while 400 write in them: how long a key takes to the board, and what the boards cost
 * those who write.
 */
export async function appendBoards(
  app: App,
  school: TestSchool,
  page: Node,
  by: {
    visitor: (person: string) => Promise<Visitor>;
    typist: () => { message: () => StepsMessage };
    seconds: number;
  },
): Promise<void> {
  const classes = await makeClasses(app, school, CLASSES, SIZE);
  const original = await newPage(
    app.db,
    { in: { kind: 'original', course: school.course }, title: 'Boards', at: new Date() },
    page,
  );
  const spec = plainSpec(original, classes[0] ?? '', {
    title: 'Boards',
    classes: classes.map((one) => ({ class: one, unit: null, grouping: null, due: null })),
  });
  const id = crypto.randomUUID();
  await handOut(app, await CheckedSpec.check(app, school.teacher, spec), { id, at: new Date() });
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', id)
    .execute();
  // Some of each class.
  const writing = copies
    .filter((_, n) => (n * WRITERS) % copies.length < WRITERS)
    .slice(0, WRITERS);
  const teachers: Visitor[] = [];
  for (const [n, klass] of classes.entries()) {
    const person_id = await addPerson(app, school, `board${n}x`, 'teacher');
    await app.db
      .insertInto('class_staff')
      .values({ school_id: school.id, class_id: klass, person_id, kind: 'lead' })
      .execute();
    teachers.push(await by.visitor(person_id));
  }
  const writers = await Promise.all(
    writing.map(async ({ id, student_id }) => {
      const visitor = await by.visitor(student_id ?? '');
      await (await visitor.fetch(`/pages/${id}`)).arrayBuffer();
      return { page: id, visitor, typist: by.typist() };
    }),
  );
  /** When what a version of a page holds was typed. */
  const typed = new Map<string, number>();
  const shown: number[] = [];
  const write = async () => {
    const times: number[] = [];
    const warm = performance.now() + 5000;
    const end = warm + by.seconds * 1000;
    await Promise.all(
      writers.map(async ({ page, visitor, typist }, n) => {
        let next = performance.now() + (EVERY * n) / writers.length;
        while (next < end) {
          await pause(Math.max(0, next - performance.now()));
          const message = typist.message();
          if (next > warm) typed.set(`${page} ${message.base + message.steps.length}`, next);
          const answer = await visitor.send(`/pages/${page}/steps`, message);
          await answer.arrayBuffer();
          if (answer.status !== 200) throw new Error(`append answered ${answer.status}`);
          if (next > warm) times.push(performance.now() - next);
          next += EVERY;
        }
      }),
    );
    return quantile(times, 0.95);
  };
  // The first round warms the server up: it opens every copy, and compiles what it does.
  await write();
  const alone = await write();
  const ends: (() => void)[] = [];
  for (const visitor of teachers)
    ends.push(
      await listen(visitor, ({ page, version }) => {
        const at = typed.get(`${page} ${version}`);
        if (at !== undefined) shown.push(performance.now() - at);
      }),
    );
  typed.clear();
  const watched = await write();
  await pause(2000);
  for (const stop of ends) stop();
  figure('append.boards', watched, 'ms', alone);
  figure('append.boards.shown', quantile(shown, 0.95), 'ms');
  figure('append.boards.heard', shown.length / typed.size, 'of 1');
}
