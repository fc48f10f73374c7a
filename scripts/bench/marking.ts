import { sql } from 'kysely';
import { Fragment, Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { ORIGINALS } from '../../demo/originals';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { doneMask, partsOf } from '../../src/lib/core/page/parts';
import { isAnswer, schema } from '../../src/lib/core/page/schema';
import { grantOnAssignment, grantOnPage } from '../../src/lib/server/access/in-the-name-of';
import type { App } from '../../src/lib/server/app';
import { checkAgain, previewCheckAgain } from '../../src/lib/server/copy/check-again';
import { viewPiles } from '../../src/lib/server/copy/part-piles';
import { viewMarking } from '../../src/lib/server/copy/view-copy';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../../src/lib/server/handout/rights';
import { HeldPage } from '../../src/lib/server/page/held-page';
import { insertSteps, writeSnapshots } from '../../src/lib/server/page/write-changes';
import { newPage } from '../../tests/support/grants';
import type { TestSchool } from '../../tests/support/school';
import { figure, quantile, timed } from './figure';
import { makeClasses } from './views';

const [CLASSES, SIZE] = [60, 25];
const night = ORIGINALS.find(({ key }) => key === 'night');
if (!night) throw new Error('no original');
const { page, keys } = night;

/** The answers to its first part: some that many give, many that one gives, and misspelt ones. */
const answerOf = (n: number) =>
  n % 3 === 0
    ? 'three flashes every ten seconds'
    : n % 3 === 1
      ? `it flashes three times, then the dark takes ${n % 17} second${n % 2 ? 's' : ''}`
      : `light number ${n} of the list goes on and off and I counted it by the cliff`;

/** Where the first place for an answer begins. */
function firstPlace(): number {
  let place = 0;
  page.descendants((node, pos) => {
    if (isAnswer(node) && !place) place = pos + 1;
  });
  return place;
}

/** Writes one answer on each copy of an assignment and hands it in. */
async function answerAll(app: App, school: TestSchool, assignment: string) {
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('assignment_id', '=', assignment)
    .where('kind', '=', 'copy')
    .execute();
  const place = firstPlace();
  const at = new Date(Date.now() - 3_600_000);
  const written = copies.map(({ id, student_id }, n) => {
    const text = new Slice(Fragment.from(schema.text(answerOf(n))), 0, 0);
    const step = new ReplaceStep(place, place, text);
    const author = student_id ?? '';
    const held = HeldPage.at(0, page, []).with(step, 'bench', 1, author, at.getTime());
    return { id, author, step, held };
  });
  await insertSteps(
    app.db,
    written.map(({ id, author, step }) => ({
      page_id: id,
      version: 1,
      school_id: school.id,
      author_id: author,
      at,
      client: 'bench',
      client_no: 1,
      body: step.toJSON() as object,
    })),
  );
  for (let from = 0; from < written.length; from += 100)
    await writeSnapshots(
      app.db,
      at,
      written.slice(from, from + 100).map(({ id, held }) => ({ id, school: school.id, held })),
    );
  const [first] = written;
  const mask = first ? doneMask(partsOf(first.held.doc)) : '';
  await sql`update page set version = 1, done_mask = ${mask}, words = 6, written_at = ${at}, with_teacher = true
    where assignment_id = ${assignment}`.execute(app.db);
  for (const kind of ['opened', 'handed in'])
    await sql`insert into event (school_id, page_id, person_id, kind, version, note, at)
      select school_id, id, student_id, ${kind}, 1, '', ${at} from page
      where assignment_id = ${assignment}`.execute(app.db);
  await sql`analyze`.execute(app.db);
  return copies;
}

/** The next copy of a class, one part of 1,500 copies in piles, and these copies checked anew by a key that was changed. */
export async function marking(app: App, school: TestSchool): Promise<void> {
  const original = await newPage(
    app.db,
    { in: { kind: 'original', course: school.course }, title: 'Marking', at: new Date() },
    page,
  );
  const setKeys = (all: typeof keys) =>
    Promise.all(
      Object.entries(all).map(([part_id, body]) =>
        sql`insert into answer_key (page_id, part_id, school_id, body)
          values (${original}, ${part_id}, ${school.id}, ${JSON.stringify(body)}::jsonb)
          on conflict (page_id, part_id) do update set body = excluded.body`.execute(app.db),
      ),
    );
  await setKeys(keys);
  const classes = await makeClasses(app, school, CLASSES, SIZE);
  const [klass = ''] = classes;
  const assignment = crypto.randomUUID();
  const spec = plainSpec(original, klass, {
    title: 'Marking',
    points: '10',
    marking: 'by key',
    classes: classes.map((one) => ({ class: one, unit: null, grouping: null, due: null })),
  });
  await handOut(app, await CheckedSpec.check(app, school.teacher, spec), {
    id: assignment,
    at: new Date(Date.now() - 86_400_000),
  });
  const copies = await answerAll(app, school, assignment);
  const grant = await grantOnAssignment(app.db, 'mark its copies', school.teacher, {
    assignment,
    class: klass,
  });

  const next: number[] = [];
  for (const { id } of copies.slice(0, 150)) {
    const { class_id } = await app.db
      .selectFrom('page')
      .select('class_id')
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
    next.push(
      await timed(async () => {
        const asked = await grantOnPage(app, 'see the marking', school.teacher, id);
        JSON.stringify(await viewMarking(app, asked, class_id ?? ''));
      }),
    );
  }
  figure('marking.next', quantile(next.slice(30), 0.95), 'ms');

  const pile = () =>
    timed(async () => {
      const view = await viewPiles(app, grant, { page: null, part: 'words', all: true });
      JSON.stringify(view);
    });
  const piled: number[] = [];
  for (let n = 0; n < 8; n++) piled.push(await pile());
  figure('parts.1500', quantile(piled, 0.95), 'ms');

  await checkAgain(app, grant);
  const checked: number[] = [];
  for (let n = 0; n < 4; n++) {
    await setKeys({
      words: {
        kind: 'short',
        accepted: ['three flashes every ten seconds', `and ${n}`],
        points: `${n + 3}`,
      },
    });
    checked.push(
      await timed(async () => {
        JSON.stringify(await previewCheckAgain(app, grant));
        await checkAgain(app, grant);
        JSON.stringify(await viewPiles(app, grant, { page: null, part: 'words', all: true }));
      }),
    );
  }
  figure('recheck.1500', Math.max(...checked), 'ms');
}
