import { sql } from 'kysely';
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { Chance } from '../../demo/chance';
import { authorshipIn, momentIn } from '../../src/lib/core/history/moment';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { lookBack, viewHistory } from '../../src/lib/server/history/look-back';
import { loggedJson, readPage, readSteps } from '../../src/lib/server/page/page-store';
import { toLookBack } from '../../tests/support/grants';
import { assign, type TestSchool } from '../../tests/support/school';
import { figure, quantile, timed } from './figure';

const STEPS = 20_000;
const AT_ONCE = 100;
/** The table's setting has the database clean it when so many rows have gone. */
const CLEANED_AFTER = 2000;
const MOMENTS = 200;

/** What the log takes on the disk, indexes included, in bytes. */
async function sizeOfLog(app: App): Promise<number> {
  const { rows } = await sql<{ size: string }>`
    select pg_total_relation_size('step') + pg_total_relation_size('step_pack') as size`.execute(
    app.db,
  );
  return Number(rows[0]?.size);
}

/** Any moment of a page of 20,000 steps, read and made, beside a replay of the steps before it. */
export async function moment20000(app: App, school: TestSchool, page: Node, place: number) {
  const { copies } = await assign(app, school, { page });
  const [copy = '', person = ''] = [copies[0], school.students[0]];
  const before = await sizeOfLog(app);
  const chance = new Chance(20_000);
  let length = 0;
  for (let base = 0; base < STEPS; base += AT_ONCE) {
    const steps = Array.from({ length: AT_ONCE }, () => {
      const at = place + chance.whole(0, length);
      // Four letters come, one goes: a page of some 12,000 characters.
      const goes = length > 10 && at < place + length && chance.happens(20);
      length += goes ? -1 : 1;
      const slice = goes ? Slice.empty : new Slice(Fragment.from(schema.text('a')), 0, 0);
      return new ReplaceStep(at, goes ? at + 1 : at, slice).toJSON();
    });
    const message = { base, client: 'bench-moments', first: base + 1, lost: [], steps };
    await app.pages.append(copy, { id: person, owner: true }, message);
    // Nobody types as fast as this: the database's own cleaning, which looks once a minute, is done by hand.
    if (base % CLEANED_AFTER === 0) await sql`vacuum step`.execute(app.db);
  }
  figure('step.bytes', ((await sizeOfLog(app)) - before) / STEPS, 'bytes');
  const grant = await toLookBack(app, { page: copy, person });
  const row = { ...grant.thing, version: STEPS };
  const times: number[] = [];
  const replays: number[] = [];
  const authors: number[] = [];
  for (let i = 0; i < MOMENTS; i++) {
    const version = chance.whole(0, STEPS);
    times.push(await timed(async () => momentIn(await lookBack(app, grant, version), version)));
    const stretch = await lookBack(app, grant, version);
    authors.push(await timed(async () => authorshipIn(stretch, version)));
    if (i % 20 > 0) continue;
    const whole = async () => {
      const doc = (await readPage(app.db, row, 0)).doc.toJSON() as object;
      const steps = (await readSteps(app.db, copy, 0, version)).map(loggedJson);
      return momentIn({ version: 0, doc, made: null, authorship: [], steps }, version);
    };
    replays.push(await timed(whole));
  }
  figure('moment.20000', quantile(times, 0.95), 'ms', quantile(replays, 0.95));
  figure('authorship.20000', quantile(authors, 0.95), 'ms');
  figure('moment.20000.line', await timed(() => viewHistory(app, grant)), 'ms');
}
