import { keptVersions } from '$core/history/kept-versions';
import type { Stretch } from '$core/history/moment';
import type { PageHistory } from '$core/history/page-history';
import { workLine } from '$core/history/work-line';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { loggedJson, readSteps, readStretch } from '../page/page-store';
import { Refusal } from '../page/refusal';
import { readNames } from '../school/names';
import { readTimeZone } from '../school/time-zone';

/** How a copy was written. */
export async function viewHistory(
  app: Using<'db'>,
  grant: Grant<'look back'>,
): Promise<PageHistory> {
  const { thing } = grant;
  const { db } = app;
  const { version } = await db
    .selectFrom('page')
    .select('version')
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const line = workLine((await readSteps(db, thing.id, 0, version)).map(loggedJson));
  const events = await db
    .selectFrom('event')
    .select(['kind', 'at', 'person_id', 'version', 'note'])
    .where('page_id', '=', thing.id)
    .orderBy('id')
    .execute();
  const kept = keptVersions(
    events.map(({ at, person_id, ...event }) => ({
      ...event,
      at: at.getTime(),
      person: person_id,
    })),
    { made: thing.made_at.getTime(), replaced: thing.replaced_at?.getTime() ?? null, version },
  );
  return {
    version,
    line,
    kept,
    names: await readNames(db, [
      ...line.map(({ author }) => author),
      ...kept.flatMap(({ by }) => by ?? []),
    ]),
    timeZone: await readTimeZone(db, thing.school_id),
    // What is with the teacher stays as it was handed in.
    mayPutBack: grant.may('put back') && !(grant.relation === 'owner' && thing.with_teacher),
  };
}

/** The stretch of a page's history that a version lies in. @throws Refusal when there is no such version */
export async function lookBack(
  app: Using<'db'>,
  { thing }: Grant<'look back'>,
  version: number,
): Promise<Stretch> {
  const page = await app.db
    .selectFrom('page')
    .select(['id', 'version', 'source_id', 'source_version'])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  if (version > page.version) throw new Refusal(404, 'This page has no such version yet.');
  return readStretch(app.db, page, version);
}
