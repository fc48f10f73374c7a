import { z } from 'zod';
import { gapKey, type Gap } from '$core/headcount/gap';
import { gapsNow } from '$core/headcount/headcount';
import { DEEDS, remediesOf, type Deed } from '$core/headcount/remedy';
import { dayOf } from '$core/calendar/local-time';
import { grouped } from '$core/lists/grouped';
import type { Grant } from '../access/grant';
import { grantOnAssignment, grantOnPage } from '../access/in-the-name-of';
import { readCopies } from '../copy/facts';
import { lookAtLinks } from '../attached/attach';
import { handInFor, takeBackFor } from '../copy/moves';
import { recordMove } from '../copy/record-move';
import { allow } from '../handout/allowances';
import { giveTo, Given } from '../handout/joiners';
import { remindByHand } from '../handout/remind-by-hand';
import { putBack } from '../history/put-back';
import { publishToClasses } from '../live/listeners';
import { notify } from '../message/messages';
import { Refusal, refusalIn } from '../page/refusal';
import type { Using } from '../services';
import { countClasses } from './count';
import { findElsewhere } from './elsewhere';
import { moveWork, moveWorkBack } from './move-work';
import { removeCopies } from './remove-copies';

type Manage = Grant<'manage the class'>;
type App = Using<'db' | 'news' | 'memory' | 'pages' | 'jobs' | 'findPage' | 'limits'>;

/** What is asked for: each gap by what it is called, with the deed that closes it. */
export const ToMend = z.strictObject({
  gaps: z
    .array(z.strictObject({ gap: z.string().max(10_000), deed: z.enum(DEEDS) }))
    .min(1)
    .max(2000),
});

/** What undoes a deed. */
export const Undo = z.discriminatedUnion('deed', [
  z.strictObject({ deed: z.literal('give'), assignment: z.uuid(), given: Given }),
  z.strictObject({ deed: z.literal('excuse'), assignment: z.uuid(), student: z.uuid() }),
  z.strictObject({ deed: z.literal('put back'), copy: z.uuid(), version: z.int().min(0) }),
  z.strictObject({ deed: z.literal('move'), id: z.uuid() }),
  z.strictObject({ deed: z.literal('collect'), copy: z.uuid() }),
  z.strictObject({ deed: z.literal('accept'), copy: z.uuid() }),
]);
export type Undo = z.infer<typeof Undo>;
export const ToUndo = z.strictObject({ undo: z.array(Undo).min(1).max(2000) });

export interface Mended {
  /** How many gaps were closed, or asked about. */
  mended: number;
  undo: Undo[];
  /** What could not be done, and why: "Isla Abernathy: …" is the view's to say. */
  refused: { gap: string; why: string }[];
}

/** The headcount of a class, and all of its gaps. @param now epoch milliseconds */
export async function readHeadcount(app: Using<'db'>, grant: Manage, now = Date.now()) {
  const { thing, person } = grant;
  const copies = await readCopies(app.db, { class: thing.id }, person.id);
  const counts = await countClasses(app.db, [thing.id]);
  const elsewhere = await findElsewhere(app.db, grant, copies);
  return { counts, gaps: gapsNow(counts, copies, elsewhere, now) };
}

/** The gaps alone. */
export const readGaps = async (app: Using<'db'>, grant: Manage, now?: number): Promise<Gap[]> =>
  (await readHeadcount(app, grant, now)).gaps;

/**
 * Closes gaps of a class, as they are now: one that is none any more, or that a deed does not fit, is refused by itself, and
 * never stops the others.
 */
export async function mendGaps(
  app: App,
  grant: Manage,
  asked: z.infer<typeof ToMend>['gaps'],
): Promise<Mended> {
  const known = new Map((await readGaps(app, grant)).map((gap) => [gapKey(gap), gap]));
  const result: Mended = { mended: 0, undo: [], refused: [] };
  const wanted = asked.flatMap(({ gap: key, deed }) => {
    const gap = known.get(key);
    if (gap && remediesOf(gap).includes(deed)) return [{ gap, deed }];
    result.refused.push({ gap: key, why: 'This gap is closed already.' });
    return [];
  });
  for (const [deed, some] of grouped(wanted, (one) => one.deed)) {
    const gaps = some.map(({ gap }) => gap);
    for (const together of togetherIn(deed, gaps)) {
      try {
        const { undo, done } = await DO[deed](app, grant, together);
        result.undo.push(...undo);
        result.mended += done;
      } catch (thrown) {
        const refusal = refusalIn(thrown);
        if (!refusal) throw thrown;
        const why = refusal.message;
        result.refused.push(...together.map((gap) => ({ gap: gapKey(gap), why })));
      }
    }
  }
  publishToClasses(app, [grant.thing.id]);
  return result;
}

/** What one call does at once: copies of an assignment, reminders of a class; else each gap by itself. */
function togetherIn(deed: Deed, gaps: readonly Gap[]): (readonly Gap[])[] {
  if (deed === 'remind') return [gaps];
  if (deed === 'give') return [...grouped(gaps, ({ assignment }) => assignment).values()];
  return gaps.map((gap) => [gap]);
}

type Do = (
  app: App,
  grant: Manage,
  gaps: readonly Gap[],
) => Promise<{
  undo: Undo[];
  /** How many gaps were closed, or people told. */
  done: number;
}>;

const run = (app: Using<'db'>, { person, thing }: Manage, assignment: string) =>
  grantOnAssignment(app.db, 'run the assignment', person.id, { assignment, class: thing.id });

/** For what each gap is about one copy. */
const each =
  (one: (app: App, grant: Manage, gap: Gap & { copy: string }) => Promise<Undo[]>): Do =>
  async (app, grant, gaps) => {
    const undo: Undo[] = [];
    for (const gap of gaps)
      if (gap.copy !== null) undo.push(...(await one(app, grant, { ...gap, copy: gap.copy })));
    return { undo, done: gaps.length };
  };

const sayBy = ({ person }: Manage) => person.called || `${person.given} ${person.family}`;

const DO: Record<Deed, Do> = {
  give: async (app, grant, gaps) => {
    const [first] = gaps;
    if (!first) return { undo: [], done: 0 };
    const { assignment } = first;
    const students = [...new Set(gaps.flatMap((gap) => gap.students))];
    const given = await giveTo(app, await run(app, grant, assignment), students, new Date());
    return { undo: [{ deed: 'give', assignment, given }], done: gaps.length };
  },
  excuse: async (app, grant, gaps) => {
    const undo: Undo[] = [];
    for (const { assignment, students } of gaps)
      for (const student of students) {
        const spec = { student, due: null, note: '', at: new Date() };
        await allow(app, await run(app, grant, assignment), { ...spec, kind: 'excused' });
        undo.push({ deed: 'excuse', assignment, student });
      }
    return { undo, done: gaps.length };
  },
  'put back': each(async (app, { person }, { copy, loss }) => {
    const grant = await grantOnPage(app, 'put back', person.id, copy);
    const before = loss?.version ?? 0;
    const { version } = await putBack(app, grant, { version: before, keepsSince: true });
    return [{ deed: 'put back', copy, version: version - 1 }];
  }),
  move: each(async (app, grant, { copy, elsewhere, students }) => {
    if (!elsewhere) return [];
    const { id, left } = await moveWork(app, grant, copy, elsewhere);
    if (left !== null) await giveTo(app, await run(app, grant, left), students, new Date());
    return [{ deed: 'move', id }];
  }),
  remind: async (app, grant, gaps) => {
    const cells = gaps.flatMap(({ copy, students }) =>
      copy === null ? [] : students.map((student) => ({ copy, student })),
    );
    const told = await remindByHand(app, grant, { cells, words: '' }, Date.now());
    if (told === 0) throw new Refusal(409, 'They were reminded today already.');
    return { undo: [], done: told };
  },
  ask: each(async (app, grant, { cause, copy, students, attached, elsewhere }) => {
    const { thing } = grant;
    const { title } = await app.db
      .selectFrom('page')
      .select('title')
      .where('id', '=', copy)
      .executeTakeFirstOrThrow();
    const told = await notify(app.db, {
      school: thing.school_id,
      people: students,
      link: `/work/${copy}`,
      fact: {
        kind: 'asked about',
        title,
        by: sayBy(grant),
        cause,
        names: elsewhere ? [elsewhere.title] : [...attached],
      },
      // Nobody is asked twice in a day, whoever asks.
      cause: `asked ${cause} ${copy} ${dayOf(Date.now(), thing.time_zone)}`,
    });
    if (told === 0) throw new Refusal(409, 'They were asked today already.');
    return [];
  }),
  look: each(async (app, { person, thing }, { copy }) => {
    await inClass(app, thing.id, copy);
    const grant = await grantOnPage(app, 'comment', person.id, copy);
    await lookAtLinks(app, grant);
    return [];
  }),
  collect: each(async (app, { person }, { copy }) => {
    await handInFor(app, await grantOnPage(app, 'mark', person.id, copy));
    return [{ deed: 'collect', copy }];
  }),
  accept: each(async (app, { person }, { copy }) => {
    await recordMove(app, { page: copy, person: person.id }, () => ['gap accepted']);
    return [{ deed: 'accept', copy }];
  }),
};

/** Undoes what closed gaps of a class. @throws Refusal when something cannot be; the rest is undone then */
export async function undoMending(app: App, grant: Manage, all: readonly Undo[]): Promise<void> {
  const refused: Refusal[] = [];
  for (const one of all) {
    try {
      await undoOne(app, grant, one);
    } catch (thrown) {
      const refusal = refusalIn(thrown);
      if (!refusal) throw thrown;
      refused.push(refusal);
    }
  }
  publishToClasses(app, [grant.thing.id]);
  const [first] = refused;
  if (first) throw first;
}

async function undoOne(app: App, grant: Manage, undo: Undo): Promise<void> {
  const { person, thing } = grant;
  switch (undo.deed) {
    case 'give':
      return removeCopies(app, await run(app, grant, undo.assignment), undo.given, new Date());
    case 'excuse': {
      const spec = { student: undo.student, due: null, note: '', at: new Date() };
      return allow(app, await run(app, grant, undo.assignment), { ...spec, kind: 'as for all' });
    }
    case 'put back': {
      const { copy, version } = undo;
      await inClass(app, thing.id, copy);
      const put = await grantOnPage(app, 'put back', person.id, copy);
      await putBack(app, put, { version, keepsSince: true });
      return;
    }
    case 'move':
      return moveWorkBack(app, grant, undo.id);
    case 'collect':
      await inClass(app, thing.id, undo.copy);
      return takeBackFor(app, await grantOnPage(app, 'mark', person.id, undo.copy));
    case 'accept':
      await inClass(app, thing.id, undo.copy);
      return recordMove(app, { page: undo.copy, person: person.id }, () => ['gap opened']);
  }
}

/** @throws Refusal when it is no copy of the class */
async function inClass(app: Using<'db'>, klass: string, copy: string) {
  const row = await app.db
    .selectFrom('page')
    .select('id')
    .where('id', '=', copy)
    .where('class_id', '=', klass)
    .where('kind', '=', 'copy')
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'There is no such copy in this class.');
}
