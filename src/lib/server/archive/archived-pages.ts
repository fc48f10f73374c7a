import { sql } from 'kysely';
import type { Node } from 'prosemirror-model';
import type { ArchivedPage, ArchivedScore } from '$core/archive/copy-html';
import { saySpot, Spot } from '$core/attached/spot';
import { keptVersions, sayKept } from '$core/history/kept-versions';
import { grouped } from '$core/lists/grouped';
import { pointsOf } from '$core/marking/kept-score';
import { Scoring } from '$core/marking/scoring';
import { stateAfter, type DecisionKind } from '$core/proposals/proposal';
import { readGiven, readNamesOf } from '../copy/classmates';
import { COMMENT_SENT, COMMENT_STANDS } from '../copy/sent';
import type { Tx } from '../db/transaction';
import { readNewest, readPage } from '../page/page-store';
import type { Archived } from './numbers';
import { STAMP_HASH } from './stamp-pictures';

/** A page as it stands in an archive, and whose it is. */
export interface OwnedPage extends ArchivedPage {
  id: string;
  n: number;
  kind: 'copy' | 'own page' | 'class page' | 'original' | 'reading';
  /** The person whose alone it is. */
  student: string | null;
  /** Who share it, and how their group is called: empty for the whole class. */
  members: readonly string[];
  group: string | null;
  assignment: string | null;
  /** In one word or two: how a copy stands, where another page lies. */
  area: string | null;
}

const ORIGIN = ['id', 'version', 'source_id', 'source_version'] as const;

/** What people are called in an archive, by id. In one of a student the others have no names. */
export async function readArchivedNames(
  tx: Tx,
  { student }: Archived,
): Promise<ReadonlyMap<string, string>> {
  const rows = await tx
    .selectFrom('person')
    .innerJoin(sql<{ id: string }>`archived_person`.as('numbered'), 'numbered.id', 'person.id')
    .select(['person.id', 'given', 'family', 'called', 'role'])
    .execute();
  const nameOf = ({ id, given, family, called, role }: (typeof rows)[number]) =>
    student !== null && role === 'student' && id !== student
      ? 'another student'
      : called || `${given} ${family}`;
  return new Map(rows.map((row) => [row.id, nameOf(row)]));
}

const readRows = (tx: Tx, [first, last]: readonly [number, number], { class: klass }: Archived) =>
  tx
    .selectFrom('page')
    .innerJoin(
      sql<{ n: number; id: string }>`archived_page`.as('numbered'),
      'numbered.id',
      'page.id',
    )
    .leftJoin('assignment', 'assignment.id', 'page.assignment_id')
    .select(ORIGIN.map((column) => `page.${column}` as const))
    .select([
      'numbered.n',
      'page.kind',
      'page.title',
      'page.area',
      'page.student_id',
      'page.group_name',
      'page.assignment_id',
      'page.made_at',
      'page.replaced_at',
      'assignment.instructions',
      'assignment.points as most',
    ])
    .select((eb) => [
      sql<
        string[]
      >`array(select person_id from page_member where page_id = page.id order by person_id)`.as(
        'members',
      ),
      eb('page.class_id', '=', klass).$castTo<boolean | null>().as('here'),
    ])
    .where('numbered.n', '>=', first)
    .where('numbered.n', '<=', last)
    .orderBy('numbered.n')
    .execute();

const inPages = (ids: readonly string[]) => sql<string>`any(${ids}::uuid[])`;

/** What happened to pages, what was given, what was said. */
async function readAbout(tx: Tx, ids: readonly string[], { student }: Archived) {
  const events = await tx
    .selectFrom('event')
    .select(['page_id', 'kind', 'at', 'person_id', 'version', 'note', 'score_id'])
    .where('page_id', '=', inPages(ids))
    .where('kind', 'not in', ['looked', 'gap accepted', 'gap opened'])
    .$if(student !== null, (of) =>
      of.where((eb) =>
        eb.or([
          eb('kind', 'not in', ['said done', 'took done back']),
          eb('person_id', '=', student),
        ]),
      ),
    )
    .orderBy('id')
    .execute();
  const scores = await tx
    .selectFrom('score')
    .innerJoin(sql<{ id: string }>`archived_score`.as('numbered'), 'numbered.id', 'score.id')
    .select(['score.id', 'page_id', 'at', 'person_id', 'points', 'scoring'])
    .select(['rubric_points', 'rubric_most'])
    .where('page_id', '=', inPages(ids))
    .orderBy('score.id')
    .execute();
  const apart = await tx
    .selectFrom('score_apart')
    .distinctOn(['page_id', 'person_id'])
    .select(['id', 'page_id', 'at', 'person_id', 'points', 'scoring'])
    .select(['rubric_points', 'rubric_most'])
    .where('page_id', '=', inPages(student === null ? ids : []))
    .orderBy('page_id')
    .orderBy('person_id')
    .orderBy('id', 'desc')
    .execute();
  const said = await tx
    .selectFrom('thread')
    .innerJoin('comment', 'comment.thread_id', 'thread.id')
    .leftJoin('attachment', 'attachment.id', 'thread.attachment_id')
    .leftJoin('upload', 'upload.id', 'attachment.upload_id')
    .leftJoin('stamp', (join) =>
      join.on(sql`(thread.stamp ->> 'id')::uuid`, '=', sql.ref('stamp.id')),
    )
    .select(STAMP_HASH.as('stamp'))
    .select(['spot', 'attachment.url', 'upload.name as file'])
    .select(['thread.page_id', 'thread.id', 'quote', 'comment.at', 'comment.person_id'])
    .select(['comment.text', 'comment.kind', 'comment.upload_id', 'thread.criterion'])
    .where('thread.page_id', '=', inPages(ids))
    .where(student === null ? COMMENT_STANDS : COMMENT_SENT)
    .orderBy('thread.at_from')
    .orderBy('thread.id')
    .orderBy('comment.id')
    .execute();
  const proposed = await tx
    .selectFrom('proposal')
    .innerJoin(sql<{ id: string }>`archived_proposal`.as('numbered'), 'numbered.id', 'proposal.id')
    .leftJoinLateral(
      (eb) =>
        eb
          .selectFrom('proposal_decision')
          .select(['kind as decided', 'person_id as decided_by', 'at as decided_at'])
          .whereRef('proposal_id', '=', 'proposal.id')
          .orderBy('id', 'desc')
          .limit(1)
          .as('last'),
      (join) => join.onTrue(),
    )
    .select(['proposal.page_id', 'person_id', 'at', 'kind', 'was', 'becomes'])
    .select(sql<DecisionKind | null>`last.decided`.as('decided'))
    .select(['decided_by', 'decided_at'])
    .where('proposal.page_id', '=', inPages(ids))
    .orderBy('at')
    .orderBy('proposal.id')
    .execute();
  return {
    proposed: grouped(proposed, (row) => row.page_id),
    events: grouped(events, (row) => row.page_id),
    scores: grouped(scores, (row) => row.page_id),
    apart: grouped(
      apart.sort((a, b) => Number(a.id) - Number(b.id)),
      (row) => row.page_id,
    ),
    given: await readFromStudentsOf(tx, ids, { student }),
    said: grouped(said, (row) => row.page_id),
  };
}
type About = Awaited<ReturnType<typeof readAbout>>;

/**
 * What students scored pages with last. In a student's archive is what they gave their own, and what came back of what
 * classmates gave, without their names.
 */
async function readFromStudentsOf(
  tx: Tx,
  ids: readonly string[],
  { student }: Pick<Archived, 'student'>,
) {
  const all = await readGiven(tx, ids, 'all');
  const given =
    student === null
      ? all
      : [...all.filter(({ by }) => by === null), ...(await readGiven(tx, ids, 'back'))];
  const by = student === null ? given.flatMap((one) => one.by ?? []) : [];
  const names = await readNamesOf(tx, by);
  return grouped(
    given.map((one) => ({
      page: one.page,
      by: one.by === null ? 'Own scoring' : (names.get(one.by) ?? 'A classmate'),
      at: one.at.getTime(),
      scoring: one.scoring,
      withheld: one.withheld,
    })),
    ({ page }) => page,
  );
}

/** The pages with the numbers from `first` to `last`, with all that is shown of them. */
export async function readArchivedPages(
  tx: Tx,
  range: readonly [number, number],
  archived: Archived,
  names: ReadonlyMap<string, string>,
): Promise<OwnedPage[]> {
  const rows = await readRows(tx, range, archived);
  const docs = await readNewest(tx, rows);
  const about = await readAbout(
    tx,
    rows.map(({ id }) => id),
    archived,
  );
  const pages: OwnedPage[] = [];
  for (const row of rows) {
    const page = docs.get(row.id);
    if (!page) throw new Error(`page ${row.id} is not there`);
    const nameOf = (id: string | null) => (id === null ? '' : (names.get(id) ?? ''));
    pages.push({
      id: row.id,
      n: row.n,
      kind: row.kind === 'class page' && !row.here ? 'original' : row.kind,
      title: row.title,
      student: row.student_id,
      members: row.members,
      group: row.group_name,
      assignment: row.assignment_id,
      area: row.area,
      about: [],
      instructions: row.instructions ?? '',
      page,
      most: row.most,
      scores: scoresOf(row, about, nameOf),
      apart: (about.apart.get(row.id) ?? []).map((one) => scoreOf(row, one, nameOf)),
      fromStudents: about.given.get(row.id) ?? [],
      threads: threadsOf(about.said.get(row.id) ?? [], nameOf),
      proposals: (about.proposed.get(row.id) ?? []).map((one) => ({
        kind: one.kind,
        was: one.was,
        becomes: one.becomes,
        by: nameOf(one.person_id),
        at: one.at.getTime(),
        became:
          one.decided && one.decided_at
            ? {
                state: stateAfter(one.decided),
                by: nameOf(one.decided_by),
                at: one.decided_at.getTime(),
              }
            : null,
      })),
      record: (about.events.get(row.id) ?? []).map(({ at, kind, person_id, note }) => ({
        at: at.getTime(),
        says: [kind, nameOf(person_id), note].filter(Boolean).join(', '),
      })),
      attached: [],
      earlier: row.kind === 'copy' ? await earlierOf(tx, row, about) : [],
    });
  }
  return pages;
}

type Row = Awaited<ReturnType<typeof readRows>>[number];
type NameOf = (id: string | null) => string;

/** The scores of a page that count, each with whether it went back. */
function scoresOf(row: Row, { scores, events }: About, nameOf: NameOf): ArchivedScore[] {
  const back = new Set(events.get(row.id)?.flatMap(({ score_id }) => score_id ?? []));
  const given = scores.get(row.id) ?? [];
  return given.map((score) => ({ ...scoreOf(row, score, nameOf), back: back.has(score.id) }));
}

type GivenScore = NonNullable<ReturnType<About['apart']['get']>>[number];
function scoreOf({ most }: Row, score: GivenScore, nameOf: NameOf): ArchivedScore {
  return {
    at: score.at.getTime(),
    by: nameOf(score.person_id),
    points: pointsOf(
      {
        points: score.points,
        rubric:
          score.rubric_points === null || score.rubric_most === null
            ? null
            : { points: score.rubric_points, most: score.rubric_most },
      },
      most,
    ),
    scoring: score.scoring && Scoring.parse(score.scoring),
    back: null,
  };
}

function threadsOf(
  said: NonNullable<ReturnType<About['said']['get']>>,
  nameOf: NameOf,
): ArchivedPage['threads'] {
  const threads = [...grouped(said, (row) => row.id).values()].filter((comments) =>
    comments.some(({ kind }) => kind === 'said'),
  );
  return threads.map((comments) => ({
    quote: comments[0]?.quote ?? '',
    stamp: comments[0]?.stamp ?? null,
    on: spotOf(comments[0]) || (comments[0]?.criterion?.title ?? ''),
    comments: comments.map(({ at, person_id, text, kind, upload_id }) => ({
      by: nameOf(person_id),
      at: at.getTime(),
      text,
      kind,
      file: upload_id,
    })),
  }));
}

/** Where it stands on something attached; empty for one on the page. */
function spotOf(row?: { spot: object | null; url: string | null; file: string | null }): string {
  return row?.spot ? saySpot(Spot.parse(row.spot), row.file ?? row.url ?? '') : '';
}

/** What was kept of a copy and is not how it stands now, each once. */
async function earlierOf(tx: Tx, row: Row, { events }: About): Promise<ArchivedPage['earlier']> {
  const kept = keptVersions(
    (events.get(row.id) ?? []).map(({ at, person_id, ...event }) => ({
      ...event,
      at: at.getTime(),
      person: person_id,
    })),
    {
      first: 0,
      begun: { cause: 'handed out', at: row.made_at.getTime() },
      replaced: row.replaced_at?.getTime() ?? null,
      version: row.version,
      due: null,
    },
  );
  const earlier: { says: string; at: number; page: Node }[] = [];
  // What it began as is the assignment's page, which stands among the materials.
  for (const [version, causes] of grouped(kept, (one) => one.version)) {
    const [first] = causes;
    if (!first || version === 0 || version === row.version) continue;
    const { doc } = await readPage(tx, row, version);
    earlier.push({ says: causes.map(sayKept).join('; '), at: first.at, page: doc });
  }
  return earlier;
}
