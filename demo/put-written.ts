import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import { followSteps } from '../src/lib/core/headcount/level-of-steps';
import { countWords, doneMask, partsOf, textOf } from '../src/lib/core/page/parts';
import type { App } from '../src/lib/server/app';
import type { EventKind } from '../src/lib/core/copy/reduce';
import type { HeldPage } from '../src/lib/server/page/held-page';
import type { StepRow } from '../src/lib/server/page/changing-page';
import { insertSteps, packSteps, writeSnapshots } from '../src/lib/server/page/write-changes';
import type { School } from './school';
import type { DemoScore } from './score-by';

/** What was done with a copy, as it goes into the tables. Instants in epoch milliseconds. */
export interface WrittenCopy {
  id: string;
  /** As it began. */
  begins: Node;
  /** As it stands in the end. */
  held: HeldPage;
  rows: StepRow[];
  snapshots: HeldPage[];
  events: { kind: EventKind; at: number; person: string; note?: string }[];
  scores: (DemoScore & { at: number })[];
}

/** Puts copies' histories down as if they had been written here, and what is kept of them for speed. */
export async function putWritten(
  app: App,
  school: School,
  copies: readonly WrittenCopy[],
): Promise<void> {
  const kept: object[] = [];
  for (const { id, begins, held, rows, snapshots, events, scores } of copies) {
    const withTeacher = events.findLast(
      ({ kind }) => kind === 'handed in' || kind === 'handed back',
    );
    if (held.version > 0 || withTeacher)
      kept.push({
        id,
        version: held.version,
        done_mask: doneMask(partsOf(held.doc)),
        words: countWords(textOf(held.doc)),
        level: followSteps(
          begins,
          rows.map((row) => ({ ...row, author: row.author_id, at: row.at.getTime() })),
        ).level,
        written_at: held.version > 0 ? new Date(held.lastAt) : null,
        with_teacher: withTeacher?.kind === 'handed in',
      });
    if (held.version > 0)
      for (const snapshot of [...snapshots, held])
        await writeSnapshots(app.db, new Date(snapshot.lastAt), [
          { id, school: school.id, held: snapshot },
        ]);
    const given: { id: string; at: number }[] = [];
    for (const { at, ...score } of scores) {
      const row = { school_id: school.id, page_id: id, person_id: school.teacher };
      const { id: number } = await app.db
        .insertInto('score')
        .values({ ...row, ...score, at: new Date(at), version: held.version })
        .returning('id')
        .executeTakeFirstOrThrow();
      given.push({ id: number, at });
    }
    if (events.length > 0)
      await app.db
        .insertInto('event')
        .values(
          events
            .sort((a, b) => a.at - b.at)
            .map(({ kind, at, person, note }) => ({
              school_id: school.id,
              page_id: id,
              person_id: person,
              at: new Date(at),
              kind,
              version: held.version,
              note: note ?? '',
              score_id:
                kind === 'handed back' ? (given.findLast((one) => one.at <= at)?.id ?? null) : null,
            })),
        )
        .execute();
    await commentOn(app, school, id, held, 'you can’t just draw a straight line', [
      'This is the heart of it. What curve would you draw instead?',
    ]);
    await commentOn(app, school, id, held, 'sees only the end light', [
      'Lovely detail. Which side of the boat is it on at that moment?',
    ]);
  }
  await insertSteps(
    app.db,
    copies.flatMap(({ rows }) => rows),
  );
  await sql`update page set version = r.version, done_mask = r.done_mask, words = r.words,
      written_at = r.written_at, level = r.level, with_teacher = r.with_teacher
    from jsonb_to_recordset(${JSON.stringify(kept)}::jsonb) as r(id uuid, version int, done_mask text, words int,
      written_at timestamptz, level jsonb, with_teacher boolean)
    where page.id = r.id`.execute(app.db);
  await packSteps(
    app.db,
    copies.map(({ id }) => id),
  );
}

async function commentOn(
  app: App,
  school: School,
  page: string,
  held: HeldPage,
  quote: string,
  words: string[],
) {
  let from = -1;
  held.doc.descendants((node, pos) => {
    const at = node.isText ? (node.text?.indexOf(quote) ?? -1) : -1;
    if (at >= 0 && from < 0) from = pos + at;
  });
  if (from < 0) return;
  const to = from + quote.length;
  const place = {
    at_from: from,
    at_to: to,
    made_from: from,
    made_to: to,
    made_version: held.version,
  };
  const thread = await app.db
    .insertInto('thread')
    .values({ school_id: school.id, page_id: page, made_by: school.teacher, quote, ...place })
    .returning('id')
    .executeTakeFirstOrThrow();
  for (const text of words)
    await app.db
      .insertInto('comment')
      .values({
        school_id: school.id,
        thread_id: thread.id,
        person_id: school.teacher,
        kind: 'said',
        text,
      })
      .execute();
  await app.db
    .updateTable('page')
    .set((eb) => ({ threads: eb('threads', '+', 1) }))
    .where('id', '=', page)
    .execute();
}
