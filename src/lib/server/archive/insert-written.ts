import { sql } from 'kysely';
import { Scoring } from '$core/marking/scoring';
import { offerFromJson, type OfferJson } from '$core/proposals/proposal';
import type { Tx } from '../db/transaction';
import { ascendingIds } from './ascending-ids';
import type { BagReader } from './bag-reader';
import { commentAt, insertSaidFiles } from './insert-said-files';
import { idOf, insertNumbers, readIds, rows } from './insert-rows';
import { brokenRecord, eachOf } from './read-record';
import { ArchivedStamps } from './stamp-pictures';

/** Rows that are inserted in their order. */
const inPlace = (of: readonly object[]): string =>
  rows(of.map((one, place) => ({ ...one, place })));

/** All that was written, given and said, in the order of its files. */
export async function insertWritten(
  tx: Tx,
  bag: BagReader,
  school: number,
  progress: (steps: number) => Promise<void>,
) {
  await eachOf(bag, 'snapshots.ndjson', (batch) =>
    sql`insert into snapshot (page_id, version, school_id, at, doc, authorship, parts)
      select ${idOf('page', 'r.page')}, version, ${school}, at, doc,
        coalesce((select jsonb_agg(jsonb_set(run, '{author}', to_jsonb(author.id::text)) order by place)
          from jsonb_array_elements(authorship) with ordinality runs(run, place)
          join archived_person author on author.n = (run ->> 'author')::int), '[]'),
        parts
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, version int, at timestamptz, doc jsonb, authorship jsonb, parts jsonb)`.execute(
      tx,
    ),
  );
  let done = 0;
  await eachOf(bag, 'steps.ndjson', async (batch) => {
    await sql`insert into step (page_id, version, school_id, author_id, at, client, client_no, body)
      select ${idOf('page', 'r.page')}, version, ${school}, ${idOf('person', 'r.by')}, at, client, no, body
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, version int, by int, at timestamptz, client text, no int, body jsonb)`.execute(
      tx,
    );
    await progress((done += batch.length));
  });
  await eachOf(bag, 'set-aside.ndjson', async (batch) => {
    await sql`insert into set_aside (page_id, client, client_no, school_id, author_id, at, base_version, body, words)
      select ${idOf('page', 'r.page')}, client, no, ${school}, ${idOf('person', 'r.by')}, at, base, body, words
      from jsonb_to_recordset(${rows(batch)}::jsonb)
        as r(page int, client text, no int, by int, at timestamptz, base int, body jsonb, words text)`.execute(
      tx,
    );
    await sql`insert into set_aside_settled (page_id, client, client_no, school_id, at)
      select ${idOf('page', 'r.page')}, client, no, ${school}, settled
      from jsonb_to_recordset(${rows(batch)}::jsonb) as r(page int, client text, no int, settled timestamptz)
      where settled is not null`.execute(tx);
  });
  const rubrics = await readIds(tx, 'rubric');
  await eachOf(bag, 'scorings.ndjson', async (batch) => {
    await sql`insert into archived_score (n, id) select n, nextval(pg_get_serial_sequence('score', 'id'))
      from unnest(${batch.map(({ n }) => n)}::int[]) of(n) order by n`.execute(tx);
    const all = batch.map((one) => ({ ...one, scoring: scoringOf(one.scoring, rubrics) }));
    await sql`insert into score (id, school_id, page_id, person_id, at, points, scoring, checked, rubric_points, rubric_most, version,
        why)
      overriding system value
      select (select id from archived_score numbered where numbered.n = r.n), ${school}, ${idOf('page', 'r.page')},
        ${idOf('person', 'r.by')}, at, points::numeric, nullif(scoring, 'null'), nullif(checked, 'null'), rubric_points::numeric,
        rubric_most::numeric, version, why
      from jsonb_to_recordset(${rows(all)}::jsonb) as r(n int, page int, by int, at timestamptz, points text,
        scoring jsonb, checked jsonb, rubric_points text, rubric_most text, version int, why text)`.execute(
      tx,
    );
  });
  await eachOf(bag, 'scorings-apart.ndjson', (batch) => {
    const all = batch.map((one) => ({ ...one, scoring: scoringOf(one.scoring, rubrics) }));
    return sql`insert into score_apart (school_id, page_id, person_id, at, points, scoring, checked, rubric_points, rubric_most,
        version)
      select ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, points::numeric, nullif(scoring, 'null'),
        nullif(checked, 'null'), rubric_points::numeric, rubric_most::numeric, version
      from jsonb_to_recordset(${inPlace(all)}::jsonb) as r(page int, by int, at timestamptz, points text, scoring jsonb,
        checked jsonb, rubric_points text, rubric_most text, version int, place int) order by place`.execute(
      tx,
    );
  });
  const pages = await readIds(tx, 'page');
  await eachOf(bag, 'student-scorings.ndjson', (batch) => {
    // Without the copy that it is by, it would be their own scoring.
    if (batch.some(({ by_page }) => by_page !== null && !pages.has(by_page)))
      throw brokenRecord('student-scorings.ndjson', 'a scoring is by a copy that is not there.');
    const all = batch.map((one) => ({ ...one, scoring: scoringOf(one.scoring, rubrics) }));
    return sql`insert into student_scoring (school_id, page_id, by_page_id, person_id, at, version, scoring)
      select ${school}, ${idOf('page', 'r.page')}, ${idOf('page', 'r.by_page')}, ${idOf('person', 'r.by')}, at, version,
        scoring
      from jsonb_to_recordset(${inPlace(all)}::jsonb) as r(page int, by_page int, by int, at timestamptz, version int,
        scoring jsonb, place int) order by place`.execute(tx);
  });
  await eachOf(bag, 'events.ndjson', (batch) =>
    sql`insert into event (school_id, page_id, person_id, at, kind, version, of_version, score_id, note)
      select ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, kind, version, of_version,
        ${idOf('score', 'r.scoring')}, note
      from jsonb_to_recordset(${inPlace(batch)}::jsonb) as r(page int, by int,
        at timestamptz, kind text, version int, of_version int, scoring int, note text, place int)
      order by place`.execute(tx),
  );
  const files = await insertSaidFiles(tx, bag, school);
  const stamps = new ArchivedStamps(tx, bag, school, await readIds(tx, 'person'));
  const newThread = ascendingIds();
  await eachOf(bag, 'threads.ndjson', async (batch) => {
    await insertNumbers(
      tx,
      'thread',
      batch.map(({ n }) => ({ n, id: newThread(n) })),
    );
    const threads: object[] = [];
    for (const one of batch) threads.push({ ...one, stamp: await stamps.take(one) });
    await sql`insert into thread (id, school_id, page_id, made_by, made_at, quote, staff_only, made_version, made_from,
        made_to, at_from, at_to, attachment_id, spot, criterion, stamp)
      select ${idOf('thread', 'r.n')}, ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, quote, staff_only,
        made_version, made_from, made_to, at_from, at_to, ${idOf('attachment', 'r."on"')}, nullif(spot, 'null'), nullif(criterion, 'null'),
        nullif(stamp, 'null')
      from jsonb_to_recordset(${rows(threads)}::jsonb) as r(n int, page int, by int, at timestamptz, quote text,
        staff_only boolean, made_version int, made_from int, made_to int, at_from int, at_to int, "on" int, spot jsonb, criterion jsonb,
        stamp jsonb)`.execute(tx);
    const said = batch.flatMap(({ n, comments }) =>
      comments.map((one, index) => ({ n, ...one, file: files.get(commentAt(n, index)) ?? null })),
    );
    await sql`insert into comment (school_id, thread_id, person_id, at, kind, text, kept_back, upload_id)
      select ${school}, ${idOf('thread', 'r.n')}, ${idOf('person', 'r.by')}, at, kind, text, kept_back, file
      from jsonb_to_recordset(${inPlace(said)}::jsonb)
        as r(n int, by int, at timestamptz, kind text, text text, kept_back boolean, file uuid, place int) order by place`.execute(
      tx,
    );
    const withdrawn = batch.flatMap(({ n, comments }) =>
      comments.flatMap(({ withdrawn: at }, index) => (at === null ? [] : { n, index, at })),
    );
    if (withdrawn.length > 0)
      await sql`insert into comment_withdrawal (comment_id, school_id, at)
        select placed.id, ${school}, r.at from jsonb_to_recordset(${rows(withdrawn)}::jsonb) as r(n int, index int, at timestamptz)
        join lateral (select id, row_number() over (order by id) - 1 as index from comment
          where thread_id = ${idOf('thread', 'r.n')}) placed on placed.index = r.index`.execute(tx);
  });
  const newProposal = ascendingIds();
  await eachOf(bag, 'proposals.ndjson', async (batch) => {
    for (const { offer, decisions } of batch)
      for (const one of [offer, ...decisions.flatMap((decision) => decision.offer ?? [])])
        checkOffer(one);
    await insertNumbers(
      tx,
      'proposal',
      batch.map(({ n }) => ({ n, id: newProposal(n) })),
    );
    await sql`insert into proposal (id, school_id, page_id, person_id, at, version, offer, kind, was, becomes, kept_back)
      select ${idOf('proposal', 'r.n')}, ${school}, ${idOf('page', 'r.page')}, ${idOf('person', 'r.by')}, at, version,
        offer, kind, was, becomes, kept_back
      from jsonb_to_recordset(${rows(batch)}::jsonb) as r(n int, page int, by int, at timestamptz, version int,
        offer jsonb, kind text, was text, becomes text, kept_back boolean)`.execute(tx);
    const decisions = batch.flatMap(({ n, decisions }) => decisions.map((one) => ({ n, ...one })));
    await sql`insert into proposal_decision (school_id, proposal_id, person_id, at, kind, first_version, version, offer)
      select ${school}, ${idOf('proposal', 'r.n')}, ${idOf('person', 'r.by')}, at, kind, first_version, version,
        nullif(offer, 'null')
      from jsonb_to_recordset(${inPlace(decisions)}::jsonb)
        as r(n int, by int, at timestamptz, kind text, first_version int, version int, offer jsonb, place int)
      order by place`.execute(tx);
  });
  await sql`update page set threads = (select count(*) from thread where thread.page_id = page.id)
    where id in (select id from archived_page)`.execute(tx);
}

/** @throws Refusal when it is none of a page */
function checkOffer(offer: OfferJson): void {
  try {
    offerFromJson(offer);
  } catch {
    throw brokenRecord('proposals.ndjson', 'a proposal is none.');
  }
}

/** A scoring, with the rubric's id in this school. @throws Refusal when it is none */
function scoringOf(scoring: unknown, rubrics: ReadonlyMap<number, string>): unknown {
  if (scoring === null || scoring === undefined) return null;
  const nowhere = '00000000-0000-4000-8000-000000000000';
  if (typeof scoring !== 'object' || !('rubric' in scoring))
    throw brokenRecord('scorings.ndjson', 'a scoring is none.');
  const { rubric } = scoring;
  const number = typeof rubric === 'object' && rubric && 'id' in rubric ? Number(rubric.id) : 0;
  const read = Scoring.safeParse({
    ...scoring,
    rubric: { ...(rubric as object), id: rubrics.get(number) ?? nowhere },
  });
  if (!read.success) throw brokenRecord('scorings.ndjson', 'a scoring is none.');
  return read.data;
}
