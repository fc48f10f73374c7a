import { z } from 'zod';
import type { ChangeFact } from '$core/handout/change-facts';
import { correct, passagesOf, type Correction } from '$core/handout/correct';
import { counted } from '$core/lists/counted';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { inTransaction } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import { readPage, type PageOrigin } from '../page/page-store';
import { Refusal } from '../page/refusal';

type Change = Grant<'change the assignment'>;

interface CorrectionSpec {
  /** One of the assignment's pages. */
  page: string;
  /** The version whose text the copies are to have. */
  to: number;
}

/** Which of an assignment's pages were changed since they were handed out. */
export async function readOutdated(app: Using<'db'>, assignment: string) {
  const rows = await app.db
    .selectFrom('assignment_original')
    .innerJoin('page', 'page.id', 'assignment_original.page_id')
    .select(['page.id', 'page.title', 'assignment_original.version as has', 'page.version as is'])
    .where('assignment_original.assignment_id', '=', assignment)
    .whereRef('page.version', '>', 'assignment_original.version')
    .execute();
  return rows;
}

/** The newest text of a page, for its copies. @throws Refusal when they have it */
export async function newestText(
  app: Using<'db'>,
  { thing }: Change,
  page: string,
): Promise<CorrectionSpec> {
  const outdated = (await readOutdated(app, thing.id)).find(({ id }) => id === page);
  if (!outdated) throw new Refusal(409, 'The copies have the newest text of this page already.');
  return { page, to: outdated.is };
}

/**
 * What a correction does to each copy that is written in and not with the teacher.
 * @param from the version whose text the copies have, if it is another than the assignment says
 */
async function prepare(
  app: Using<'db' | 'pages'>,
  assignment: string,
  { page, to }: CorrectionSpec,
  from?: number,
) {
  const row = await app.db
    .selectFrom('assignment_original')
    .innerJoin('page', 'page.id', 'assignment_original.page_id')
    .select([
      'page.id',
      'page.version',
      'source_id',
      'source_version',
      'assignment_original.version as has',
      'instead_of',
    ])
    .where('assignment_original.assignment_id', '=', assignment)
    .where('assignment_original.page_id', '=', page)
    .executeTakeFirst();
  if (!row) throw new Refusal(404, 'This page is not one of the assignment.');
  const origin: PageOrigin = row;
  const [was, is] = await Promise.all([
    readPage(app.db, origin, from ?? row.has),
    readPage(app.db, origin, to),
  ]);
  const copies = await app.db
    .selectFrom('page')
    .leftJoin('person', 'person.id', 'page.student_id')
    .select([
      'page.id',
      'page.with_teacher',
      'page.written_at',
      'page.class_id',
      'page.group_name',
      'given',
      'family',
    ])
    .where('assignment_id', '=', assignment)
    .where('page.kind', '=', 'copy')
    .where('replaced_at', 'is', null)
    .where('away_at', 'is', null)
    .where((eb) =>
      row.instead_of
        ? eb('source_id', '=', page)
        : eb.and([
            eb('for_id', '=', page),
            eb(
              'source_id',
              'not in',
              eb
                .selectFrom('assignment_original as adapted')
                .select('adapted.page_id')
                .where('adapted.assignment_id', '=', assignment)
                .where('adapted.instead_of', 'is not', null),
            ),
          ]),
    )
    .execute();
  const found: { copy: (typeof copies)[number]; version: number; correction: Correction }[] = [];
  for (const copy of copies.filter(({ with_teacher }) => !with_teacher)) {
    const held = await app.pages.open(copy.id);
    found.push({ copy, version: held.version, correction: correct(was.doc, is.doc, held.doc) });
  }
  return {
    has: row.has,
    found,
    waiting: copies.length - found.length,
    passages: passagesOf(was.doc, is.doc),
  };
}
type Found = Awaited<ReturnType<typeof prepare>>;

/** Whose copy it is. */
const whoseOf = ({ copy }: Found['found'][number]) =>
  copy.given ? `${copy.given} ${copy.family}` : copy.group_name || 'the shared page';
/** So many people are named in a sentence. */
const MOST_NAMES = 5;

function factsOf({ found, waiting }: Found): ChangeFact[] {
  const concerned = found.filter(({ correction }) => correction.steps.length > 0);
  const conflicts = found.filter(({ correction }) => correction.conflicts.length > 0);
  const facts: ChangeFact[] = [
    {
      kind: 'corrected',
      copies: concerned.length,
      begun: concerned.filter(({ copy }) => copy.written_at !== null).length,
    },
  ];
  if (conflicts.length > 0)
    facts.push({
      kind: 'not corrected',
      copies: conflicts.length,
      names: conflicts.slice(0, MOST_NAMES).map(whoseOf),
    });
  if (waiting > 0) facts.push({ kind: 'not corrected: handed in', copies: waiting });
  return facts;
}

/** What bringing the newest text of a page into its copies would do. */
export async function previewCorrection(
  app: Using<'db' | 'pages'>,
  { thing }: Change,
  spec: CorrectionSpec,
) {
  const prepared = await prepare(app, thing.id, spec);
  return {
    facts: factsOf(prepared),
    passages: prepared.passages,
    conflicts: prepared.found.flatMap((one) =>
      one.correction.conflicts.map((conflict) => ({
        ...conflict,
        who: whoseOf(one),
      })),
    ),
  };
}

/**
 * Brings the text of a version into an assignment's copies, and remembers how it was. A job goes through the copies, each by
 * itself.
 * @returns what it does, and the change that the job carries out
 */
export async function bringCorrection(
  app: Using<'db' | 'jobs' | 'pages'>,
  grant: Change,
  spec: CorrectionSpec & { at: Date },
): Promise<{ facts: ChangeFact[]; change: string }> {
  const { page, to, at } = spec;
  const { id: assignment, school_id } = grant.thing;
  const prepared = await prepare(app, assignment, spec);
  const facts = factsOf(prepared);
  const change = await inTransaction(app.db, async (tx) => {
    const { id } = await tx
      .insertInto('assignment_change')
      .values({
        school_id,
        assignment_id: assignment,
        made_by: grant.person.id,
        made_at: at,
        was: JSON.stringify({ page, version: prepared.has }),
        became: JSON.stringify({ page, version: to }),
        facts: JSON.stringify(facts),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    await tx
      .updateTable('assignment_original')
      .set({ version: to })
      .where('assignment_id', '=', assignment)
      .where('page_id', '=', page)
      .execute();
    await app.jobs.put(tx, school_id, 'bring correction', { change: id });
    return id;
  });
  return { facts, change };
}

const Brought = z.object({ page: z.uuid(), version: z.number().int() });

/**
 * The job: brings a correction into each copy. A copy that cannot take it now does not stop the others.
 * @throws Refusal when some copies could not take it: the job is tried again
 */
export async function carryCorrection(
  app: Using<'db' | 'news' | 'pages'>,
  change: string,
): Promise<void> {
  const row = await app.db
    .selectFrom('assignment_change')
    .select(['assignment_id', 'made_by', 'was', 'became'])
    .where('id', '=', change)
    .executeTakeFirstOrThrow();
  const [was, became] = [Brought.parse(row.was), Brought.parse(row.became)];
  const { page, version: to } = became;
  const prepared = await prepare(app, row.assignment_id, { page, to }, was.version);
  // The change's own mark as their client: sent again, the same steps are not taken twice.
  const brought = await Promise.allSettled(
    prepared.found
      .filter(({ correction }) => correction.steps.length > 0)
      .map(({ copy, version, correction }) =>
        app.pages.append(
          copy.id,
          { id: row.made_by, owner: false },
          {
            base: version,
            client: change,
            first: 1,
            lost: [],
            steps: correction.steps.map((step) => step.toJSON()),
          },
        ),
      ),
  );
  const classes = new Set(prepared.found.flatMap(({ copy }) => copy.class_id ?? []));
  publishToClasses(app, [...classes]);
  const failed = brought.filter(({ status }) => status === 'rejected').length;
  if (failed > 0)
    throw new Refusal(409, `${counted(failed, 'copy', 'copies')} could not be corrected yet.`);
}
