import { sql } from 'kysely';
import { keptVersions } from '$core/history/kept-versions';
import type { Stretch } from '$core/history/moment';
import type { PageHistory } from '$core/history/page-history';
import { PASTED, workLine, type LoggedJson } from '$core/history/work-line';
import type { Grant } from '../access/grant';
import { readCopy } from '../copy/facts';
import type { Database } from '../db/connect';
import type { PageRow } from '../db/schema';
import type { Using } from '../services';
import { loggedJson, readSteps, readStretch } from '../page/page-store';
import { seenFrom } from '../page/seen-from';
import { Refusal } from '../page/refusal';
import { readNames } from '../school/names';
import { readTimeZone } from '../school/time-zone';

/** That somebody may look back: on what students write, or on what they keep. */
type MayLookBack = Grant<'look back'> | Grant<'manage the page'>;

/** Steps as their reader may know them: that a student pasted something is for the staff, and for them. */
const asReaderKnows = ({ person }: MayLookBack, steps: readonly LoggedJson[]): LoggedJson[] =>
  steps.map((step) => {
    if (person.role !== 'student' || step.author === person.id) return step;
    const { [PASTED]: _, ...body }: Record<string, unknown> = { ...step.body };
    return { ...step, body };
  });

/** How a page was written, as far as it is in its reader's sight. */
export async function viewHistory(app: Using<'db'>, grant: MayLookBack): Promise<PageHistory> {
  const { thing } = grant;
  const { db } = app;
  const isCopy = thing.kind === 'copy';
  const first = seenFrom(grant);
  const { version } = await db
    .selectFrom('page')
    .select('version')
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const steps = (await readSteps(db, thing.id, first, version)).map(loggedJson);
  const line = workLine(asReaderKnows(grant, steps));
  const events = await db
    .selectFrom('event')
    .select(['kind', 'at', 'person_id', 'version', 'note'])
    .where('page_id', '=', thing.id)
    .where('version', '>=', first)
    .orderBy('id')
    .execute();
  const kept = keptVersions(
    events.map(({ at, person_id, ...event }) => ({
      ...event,
      at: at.getTime(),
      person: person_id,
    })),
    {
      first,
      begun:
        first > 0
          ? { cause: 'shown', at: await timeOf(db, thing.id, first) }
          : { cause: isCopy ? 'handed out' : 'begun', at: thing.made_at.getTime() },
      replaced: thing.replaced_at?.getTime() ?? null,
      version,
      due: isCopy ? await dueVersion(app, grant, steps) : null,
    },
    isCopy ? [] : await readHandedOut(db, thing.id),
  );
  const taken = await readTaken(db, thing.id, first);
  return {
    first,
    version,
    line,
    kept,
    taken,
    names: await readNames(db, [
      ...line.map(({ author }) => author),
      ...taken.map(({ by }) => by),
      ...kept.flatMap(({ by }) => by ?? []),
    ]),
    staff: grant.may('look back')
      ? await readStaffAmong(
          db,
          line.map(({ author }) => author),
        )
      : [],
    timeZone: await readTimeZone(db, thing.school_id),
    // What is with the teacher stays as it was handed in.
    mayPutBack:
      (grant.may('put back') || grant.may('manage the page')) &&
      !(grant.relation === 'owner' && thing.with_teacher),
    others: isCopy && grant.may('look inside') ? await readOthers(db, thing) : [],
  };
}

/** The proposals that were taken into a page since a version. */
async function readTaken(db: Database, page: string, first: number) {
  const rows = await db
    .selectFrom('proposal_decision')
    .innerJoin('proposal', 'proposal.id', 'proposal_decision.proposal_id')
    .select(['proposal_decision.version', 'proposal_decision.person_id as by'])
    .select('proposal_decision.at')
    .where('proposal.page_id', '=', page)
    .where('proposal_decision.kind', '=', 'taken')
    .where('proposal_decision.version', '>=', first)
    .orderBy('proposal_decision.id')
    .execute();
  return rows.map(({ version, by, at }) => ({ version: version ?? 0, by, at: at.getTime() }));
}

/** When a version was made. */
const timeOf = async (db: Database, page: string, version: number): Promise<number> =>
  (await readSteps(db, page, version - 1, version))[0]?.at.getTime() ?? 0;

/** How a copy stood when it was due for whoever looks: by its last step until then. */
async function dueVersion(
  { db }: Using<'db'>,
  { thing, person }: MayLookBack,
  steps: readonly LoggedJson[],
) {
  const at = (await readCopy(db, thing.id, person.id)).facts.due;
  if (at === null || at > Date.now()) return null;
  return { version: steps.findLast((step) => step.at <= at)?.version ?? 0, at };
}

/** The other copies of an assignment in a class, as they are called on its board. */
async function readOthers(
  db: Database,
  { id, assignment_id, class_id }: Pick<PageRow, 'id' | 'assignment_id' | 'class_id'>,
) {
  const rows = await db
    .selectFrom('page')
    .leftJoin('person', 'person.id', 'page.student_id')
    .select(['page.id', 'page.version', 'page.group_name', 'given', 'family'])
    .where('page.assignment_id', '=', assignment_id)
    .where('page.class_id', '=', class_id)
    .where('page.kind', '=', 'copy')
    .where('page.id', '<>', id)
    .where('page.replaced_at', 'is', null)
    .where('page.away_at', 'is', null)
    .orderBy('family')
    .orderBy('given')
    .execute();
  return rows.map(({ id: page, version, given, family, group_name }) => ({
    page,
    version,
    name: group_name ?? `${given ?? ''} ${family ?? ''}`,
  }));
}

const readStaffAmong = async (db: Database, people: readonly string[]): Promise<string[]> =>
  (
    await db
      .selectFrom('person')
      .select('id')
      .where('id', '=', sql<string>`any(${[...new Set(people)]}::uuid[])`)
      .where('role', '<>', 'student')
      .execute()
  ).map(({ id }) => id);

/** The versions of an original that were handed out, with what to whom. */
async function readHandedOut(db: Database, original: string) {
  const rows = await db
    .selectFrom('page')
    .innerJoin('assignment', 'assignment.id', 'page.assignment_id')
    .innerJoin('class', 'class.id', 'page.class_id')
    .select(({ fn, ref }) => [
      ref('page.source_version').as('version'),
      'assignment.title',
      'class.name',
      fn.min('page.made_at').as('at'),
    ])
    .where('page.source_id', '=', original)
    .where('page.kind', '=', 'copy')
    .groupBy(['page.source_version', 'assignment.id', 'class.id'])
    .orderBy('at')
    .execute();
  return rows.flatMap(({ version, at, title, name }) =>
    version === null ? [] : [{ version, at: at.getTime(), name: `${title}, ${name}` }],
  );
}

/** @param text a version as an address names it @throws Refusal when it is none */
export function readVersion(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new Refusal(404, 'This page has no such version.');
  return Number(text);
}

/** The stretch of a page's history that a version lies in. @throws Refusal when there is no such version */
export async function lookBack(
  app: Using<'db'>,
  grant: MayLookBack,
  version: number,
): Promise<Stretch> {
  const { thing } = grant;
  const first = seenFrom(grant);
  if (version < first) throw new Refusal(404, 'This page has no such version for you.');
  const page = await app.db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version'])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  if (version > page.version) throw new Refusal(404, 'This page has no such version yet.');
  const stretch = await readStretch(app.db, page, version, first);
  return { ...stretch, steps: asReaderKnows(grant, stretch.steps) };
}
