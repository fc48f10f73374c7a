import { correct, passagesOf, type Correction } from '$core/handout/correct';
import { counted } from '$core/handout/plan';
import type { Grant } from '../access/grant';
import type { App } from '../app';
import { tellClasses } from '../live/listeners';
import { readPage, type PageOrigin } from '../page/page-store';
import { Refusal } from '../page/refusal';

type Change = Grant<'change the assignment'>;

interface CorrectionWish {
  /** One of the assignment's pages. */
  page: string;
  /** The version whose text the copies are to have. */
  to: number;
}

/** Which of an assignment's pages were changed since they were handed out. */
export async function readOutdated(app: App, assignment: string) {
  const rows = await app.db
    .selectFrom('assignment_original')
    .innerJoin('page', 'page.id', 'assignment_original.page_id')
    .select(['page.id', 'page.title', 'assignment_original.version as has', 'page.version as is'])
    .where('assignment_original.assignment_id', '=', assignment)
    .whereRef('page.version', '>', 'assignment_original.version')
    .execute();
  return rows;
}

/** What a correction does to each copy that is written in and not with the teacher. */
async function prepare(app: App, assignment: string, { page, to }: CorrectionWish) {
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
    readPage(app.db, origin, row.has),
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
    ...{ has: row.has, found, waiting: copies.length - found.length },
    passages: passagesOf(was.doc, is.doc),
  };
}
type Found = Awaited<ReturnType<typeof prepare>>;

function say({ found, waiting }: Found): string[] {
  const concerned = found.filter(({ correction }) => correction.steps.length > 0);
  const begun = concerned.filter(({ copy }) => copy.written_at !== null).length;
  const conflicts = found.filter(({ correction }) => correction.conflicts.length > 0);
  const names = conflicts
    .slice(0, 5)
    .map(({ copy }) =>
      copy.given ? `${copy.given} ${copy.family}` : copy.group_name || 'the shared page',
    );
  return [
    `${counted(concerned.length, 'copy', 'copies')} will have the corrected text${begun > 0 ? `, ${begun} of them begun; what is written in them stays` : ''}.`,
    ...(conflicts.length > 0
      ? [
          `In ${counted(conflicts.length, 'copy', 'copies')} something that was corrected has been written in, and stays as it is: ${names.join(', ')}${conflicts.length > 5 ? ' and others' : ''}.`,
        ]
      : []),
    ...(waiting > 0
      ? [
          `${counted(waiting, 'copy is', 'copies are')} handed in and ${waiting === 1 ? 'stays as it is' : 'stay as they are'}.`,
        ]
      : []),
  ];
}

/** What bringing the newest text of a page into its copies would do. */
export async function previewCorrection(app: App, { thing }: Change, wish: CorrectionWish) {
  const prepared = await prepare(app, thing.id, wish);
  return {
    ...{ says: say(prepared), passages: prepared.passages },
    conflicts: prepared.found.flatMap(({ copy, correction }) =>
      correction.conflicts.map((conflict) => ({
        ...conflict,
        who: copy.given ? `${copy.given} ${copy.family}` : copy.group_name || 'the shared page',
      })),
    ),
  };
}

/** Brings the text of a version into an assignment's copies, and remembers how it was. */
export async function bringCorrection(
  app: App,
  grant: Change,
  wish: CorrectionWish & { at: Date },
): Promise<string[]> {
  const { page, to, at } = wish;
  const assignment = grant.thing.id;
  const by = grant.person.id;
  const prepared = await prepare(app, assignment, wish);
  const says = say(prepared);
  const { id } = await app.db
    .insertInto('assignment_change')
    .columns(['school_id', 'assignment_id', 'made_by', 'made_at', 'was', 'became', 'says'])
    .expression((eb) =>
      eb
        .selectFrom('assignment')
        .select([
          'school_id',
          'id',
          eb.val(by).as('made_by'),
          eb.val(at).as('made_at'),
          eb
            .cast<string>(eb.val(JSON.stringify({ page, version: prepared.has })), 'jsonb')
            .as('was'),
          eb.cast<string>(eb.val(JSON.stringify({ page, version: to })), 'jsonb').as('became'),
          eb.cast<string>(eb.val(JSON.stringify(says)), 'jsonb').as('says'),
        ])
        .where('id', '=', assignment),
    )
    .returning('id')
    .executeTakeFirstOrThrow();
  // The change's own mark as their client: sent again, the same steps are not taken twice.
  await Promise.all(
    prepared.found.map(async ({ copy, version, correction }) => {
      if (correction.steps.length === 0) return;
      await app.pages.append(
        copy.id,
        { id: by, owner: false },
        {
          ...{ base: version, client: id, first: 1, lost: [] },
          steps: correction.steps.map((step) => step.toJSON()),
        },
      );
    }),
  );
  await app.db
    .updateTable('assignment_original')
    .set({ version: to })
    .where('assignment_id', '=', assignment)
    .where('page_id', '=', page)
    .execute();
  tellClasses(app, [...new Set(prepared.found.flatMap(({ copy }) => copy.class_id ?? []))], at);
  return says;
}
