import { HandOutSpec } from '../src/lib/core/handout/spec';
import type { App } from '../src/lib/server/app';
import { handOut } from '../src/lib/server/handout/hand-out';
import { CheckedSpec } from '../src/lib/server/handout/rights';
import { HeldPage } from '../src/lib/server/page/held-page';
import type { Chance } from './chance';
import type { Originals } from './course';
import { ORIGINALS, type DemoOriginal } from './originals';
import { putWritten, type WrittenCopy } from './put-written';
import { writeTests } from './class-tests';
import { MINUTE, type School } from './school';
import { writeAnswers } from './write-copy';

const NORTH = [
  'The headland first, then the end light. She turns to port when the church tower stands over the crane, and not before.',
  'From the north you see the red post on the breakwater. Keep it to port and turn round it slowly, the fishing boats come out fast.',
] as const;
const SHELTER = [
  'Behind the breakwater from all winds but the south-east. In a south-easter go to the inner berths.',
  'The inner berths are quiet in every wind. The quay is rough when it blows from the east.',
] as const;
const DANGER = [
  'The bar. At low water there is less than a metre over it, so wait until half tide.',
  'A rock awash north of the slip that you only see in the trough of a wave. Stay in the white sector.',
] as const;
const QUESTIONS = [
  'Do you sleep when there is a storm? (Noor)',
  'How many boats have gone aground on the bar? (Teo)',
  'Who changes the lamp of the end light? (Kaisa)',
  'Is a harbour master allowed to say no to a ship? (Ben)',
] as const;

/** One stretch of writing on a shared page, and who wrote it. */
interface Turn {
  by: string;
  part: string;
  text: string;
  at: number;
}

/** Writes a page that several share, each at their turn. */
function writeTurns(
  chance: Chance,
  school: School,
  id: string,
  original: DemoOriginal,
  turns: readonly Turn[],
): WrittenCopy {
  let held = HeldPage.at(0, original.page, []);
  const written: WrittenCopy = {
    id,
    begins: original.page,
    held,
    rows: [],
    snapshots: [],
    events: [],
    scores: [],
  };
  for (const { by, part, text, at: begins } of turns) {
    if (!written.events.some(({ person }) => person === by))
      written.events.push({ kind: 'opened', person: by, at: begins - MINUTE });
    const client = `demo-${id.slice(0, 8)}`;
    for (const { step, at } of writeAnswers(chance, held.doc, [{ part, type: text }], [begins])
      .steps) {
      if (at >= school.now) break;
      held = held.with(step, client, held.version + 1, by, at);
      written.rows.push({
        page_id: id,
        version: held.version,
        school_id: school.id,
        author_id: by,
        at: new Date(at),
        client,
        client_no: held.version,
        body: step.toJSON() as object,
      });
    }
  }
  return { ...written, held };
}

/** What is not one each: a page for each crew of 8C, one for all of 8C, and something to be done by all three classes. */
export async function handOutShared(
  app: App,
  chance: Chance,
  school: School,
  originals: Originals,
  today: number,
): Promise<void> {
  const [klass] = school.classes;
  const lesson = klass?.lessons[today - 1]?.starts;
  if (!klass || lesson === undefined) throw new Error('the demo term has too few lessons');
  const give = async (spec: object) => {
    const id = chance.id();
    const parsed = HandOutSpec.parse(spec);
    const checked = await CheckedSpec.check(app, school.teacher, parsed);
    await handOut(app, checked, { id, at: new Date(lesson) });
    const pages = await app.db
      .selectFrom('page')
      .select(['id', 'student_id', 'class_id'])
      .where('assignment_id', '=', id)
      .orderBy('group_name')
      .orderBy('student_id')
      .execute();
    const members = await app.db
      .selectFrom('page_member')
      .innerJoin('person', 'person.id', 'person_id')
      .select(['page_id', 'person_id'])
      .where(
        'page_id',
        'in',
        pages.map((page) => page.id),
      )
      .orderBy('family')
      .execute();
    return pages.map((page) => ({
      ...page,
      members: members.filter((one) => one.page_id === page.id).map((one) => one.person_id),
    }));
  };
  const original = (key: DemoOriginal['key']) => {
    const found = ORIGINALS.find((one) => one.key === key);
    if (!found) throw new Error(`no original ${key}`);
    return found;
  };
  const crews = await app.db
    .selectFrom('grouping')
    .select('id')
    .where('class_id', '=', klass.id)
    .executeTakeFirstOrThrow();

  const pilot = original('pilot');
  const pages = await give({
    title: pilot.title,
    points: '15',
    category: 'Tasks',
    instructions: 'Four of you, one page. Sign nothing: it is known who wrote what.',
    originals: [{ page: originals.of('pilot'), delivery: 'one per group' }],
    classes: [{ class: klass.id, unit: klass.units[2], grouping: crews.id }],
    due: { kind: 'lesson', nth: 3 },
  });
  const written = pages.map(({ id, members }, crew) => {
    const [a = '', b = a, c = b] = members;
    const at = (minute: number) => lesson + (minute + crew * 2) * MINUTE;
    const turns: Turn[] = [
      { by: a, part: 'north', text: chance.one(NORTH), at: at(6) },
      { by: b, part: 'shelter', text: chance.one(SHELTER), at: at(15) },
      { by: c, part: 'danger', text: chance.one(DANGER), at: at(24) },
    ];
    // The last crew has not begun. In the others the fourth of them has not written a word.
    return crew === pages.length - 1
      ? []
      : [writeTurns(chance, school, id, pilot, turns.slice(0, 1 + (crew % 3)))];
  });
  await putWritten(app, school, written.flat());

  const master = original('master');
  const [shared] = await give({
    title: master.title,
    instructions: 'Read what stands there already, then add yours.',
    originals: [{ page: originals.of('master'), delivery: 'one for all' }],
    classes: [{ class: klass.id, unit: klass.units[1] }],
    due: { kind: 'lesson', nth: 2 },
  });
  const asking = [1, 2, 8, 9].map((n) => klass.students[n] ?? '');
  const turns = QUESTIONS.map((text, n) => ({
    by: asking[n] ?? '',
    part: 'questions',
    text: `${text} `,
    at: lesson + (30 + n * 3) * MINUTE,
  }));
  if (shared) await putWritten(app, school, [writeTurns(chance, school, shared.id, master, turns)]);

  const tested = school.classes[1];
  for (const key of tested ? (['tides', 'night'] as const) : []) {
    const test = original(key);
    const copies = await give({
      title: test.title,
      points: '10',
      category: 'Tests',
      marking: key === 'tides' ? 'by key, handed back' : 'by key',
      originals: [{ page: originals.of(key), delivery: 'one each' }],
      classes: [{ class: tested?.id ?? '', unit: tested?.units[0] }],
      due: { kind: 'lesson', nth: 1 },
    });
    await putWritten(app, school, writeTests(chance, school, test, copies, lesson));
  }

  const boots = await give({
    title: 'Bring your boots',
    form: 'done or not',
    originals: [],
    instructions: 'For the beach. Old trainers will do, if they may get wet.',
    classes: school.classes.map(({ id, units }) => ({ class: id, unit: units[2] })),
    due: { kind: 'lesson', nth: 2 },
  });
  const done = boots.filter((_, n) => n % 4 === 1);
  const evening = lesson + 6 * 60 * MINUTE;
  if (evening < school.now)
    await app.db
      .insertInto('event')
      .values(
        done.flatMap(({ id, student_id }) =>
          (['opened', 'handed in'] as const).map((kind, n) => ({
            school_id: school.id,
            page_id: id,
            person_id: student_id ?? '',
            kind,
            at: new Date(evening + n * MINUTE),
            version: 0,
            note: '',
          })),
        ),
      )
      .execute();
  await app.db
    .updateTable('page')
    .set({ with_teacher: evening < school.now })
    .where(
      'id',
      'in',
      done.map(({ id }) => id),
    )
    .execute();
}
