import { readFileSync } from 'node:fs';
import { partsOf, placeOfPart } from '../src/lib/core/page/parts';
import { passageOf } from '../src/lib/core/history/passage-of';
import { Scoring } from '../src/lib/core/marking/scoring';
import { stepsOf, sumOf } from '../src/lib/core/marking/rubric-steps';
import type { DrawnName } from '../src/lib/core/stamps/drawn-stamps';
import type { App } from '../src/lib/server/app';
import { storeFile } from '../src/lib/server/attached/store-file';
import { inTransaction } from '../src/lib/server/db/transaction';
import { DAY, MINUTE, type School } from './school';

interface Said {
  text: string;
  /** The part that it is on, from 1; on the whole copy where neither this nor a criterion is given. */
  part?: number;
  /** Which criterion of the rubric it is on, from 0. */
  criterion?: number;
  stamp?: DrawnName;
  picture?: string;
}

/** What Ms Orrey put on Sunniva Strand's copy. */
const SAID: readonly Said[] = [
  { part: 1, text: 'Well seen', stamp: 'eye' },
  { part: 2, text: 'With its unit', stamp: 'ruler' },
  { part: 4, text: 'Which of the two would you trust in fog, and why?' },
  {
    criterion: 1,
    text: 'The period counts light and dark: $T = 2\\,\\mathrm{s} + 4\\,\\mathrm{s} = 6\\,\\mathrm{s}$, as you have it now.',
  },
  { text: 'Our own harbour, for next time: find the two lights first.', picture: 'harbour.png' },
];

/** Sunniva worked on *A light’s character* again, and it came back with more points than the first time. */
export async function handBackAgain(app: App, school: School): Promise<void> {
  const [first] = school.classes;
  const copy = await app.db
    .selectFrom('page')
    .innerJoin('person', 'person.id', 'page.student_id')
    .innerJoin('score', 'score.page_id', 'page.id')
    .select(['page.id', 'page.version', 'page.student_id', 'score.scoring'])
    .where('page.class_id', '=', first?.id ?? '')
    .where('page.title', '=', 'A light’s character')
    .where('person.given', '=', 'Sunniva')
    .executeTakeFirstOrThrow();
  const { id: page, version, student_id: student } = copy;
  const was = Scoring.parse(copy.scoring);
  const steps = stepsOf(was.rubric.table).map(({ points }) => points);
  const criteria = was.criteria.map((one, index) => {
    const better = steps[Math.min(steps.length - 1, steps.indexOf(one.points ?? '') + 2)];
    return index < 2 ? { ...one, points: better ?? one.points } : one;
  });
  const sum = sumOf(was.rubric.table, criteria);
  const belongs = { school_id: school.id, page_id: page };
  const back = new Date(school.now - DAY / 4);
  const { id: score } = await app.db
    .insertInto('score')
    .values({
      ...belongs,
      person_id: school.teacher,
      at: back,
      version,
      scoring: JSON.stringify({ ...was, criteria }),
      rubric_points: sum.points,
      rubric_most: sum.most,
      why: 'You counted the dark this time, and wrote it as the light list does.',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const event = { ...belongs, version };
  await app.db
    .insertInto('event')
    .values([
      { ...event, person_id: student ?? '', kind: 'handed in', at: new Date(school.now - DAY) },
      { ...event, person_id: school.teacher, kind: 'handed back', at: back, score_id: score },
    ])
    .execute();
  const { doc } = await app.pages.open(page);
  const parts = partsOf(doc);
  for (const [index, { text, part, criterion, stamp, picture }] of SAID.entries()) {
    const place = part ? placeOfPart(doc, parts[part - 1]?.id ?? '') : null;
    const [from, to] = [place?.from ?? null, place?.to ?? null];
    const { id: on, title } = was.rubric.table.criteria[criterion ?? -1] ?? {};
    const at = new Date(back.getTime() - (5 - index) * MINUTE);
    const { id: thread } = await app.db
      .insertInto('thread')
      .values({
        ...belongs,
        made_by: school.teacher,
        made_at: at,
        quote: place ? passageOf(doc, place.from, place.to, 300) : '',
        made_version: version,
        made_from: from,
        made_to: to,
        at_from: from,
        at_to: to,
        stamp: stamp ? JSON.stringify({ kind: 'drawn', name: stamp }) : null,
        criterion: on ? JSON.stringify({ id: on, title }) : null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await app.db
      .insertInto('comment')
      .values({
        school_id: school.id,
        thread_id: thread,
        person_id: school.teacher,
        at,
        kind: 'said',
        text,
        upload_id: picture ? await keepPicture(app, { page, ...school }, picture, at) : null,
      })
      .execute();
  }
  await app.db
    .updateTable('page')
    .set((eb) => ({ threads: eb('threads', '+', SAID.length) }))
    .where('id', '=', page)
    .execute();
}

async function keepPicture(
  app: App,
  { id: school_id, teacher, page }: Pick<School, 'id' | 'teacher'> & { page: string },
  name: string,
  at: Date,
): Promise<string> {
  const bytes = readFileSync(new URL(`./pictures/${name}`, import.meta.url));
  const belongs = { school_id, person_id: teacher, page_id: page, said: true as const, name };
  return inTransaction(app.db, async (tx) => (await storeFile(tx, [bytes], belongs, at)).upload);
}
