import { sql } from 'kysely';
import { archivedHtml } from '$core/archive/copy-html';
import { indexHtml, type ArchiveIndex } from '$core/archive/index-html';
import { Brought, recordSchemas } from '$core/archive/record';
import { rowsFromGradebook } from '$core/formats/gradebook-table';
import { rowsFromRubric } from '$core/formats/rubric-table';
import { gradeRows } from '$core/grades/gradebook';
import { readRubric } from '$core/marking/rubric';
import { partsOf } from '$core/page/parts';
import { asStudentSees } from '$core/copy/copy-row';
import { stateOf } from '$core/copy/state';
import { writePoints } from '$core/marking/points';
import { readCopies } from '../copy/facts';
import type { Tx } from '../db/transaction';
import { readGradeView } from '../grades/gradebook';
import { writeCsv, writeXlsx } from '../import/tables';
import { attachedLines, writeAttached, type FilePaths } from './archived-attached';
import { saidFileLines, writeSaidFiles } from './archived-said-files';
import { FilePlaces, up, type Placed } from './file-places';
import { readAhead } from './read-ahead';
import { writeStampPictures } from './stamp-pictures';
import { withoutDates } from './without-dates';
import { readPage } from '../page/page-store';
import { readArchivedNames, readArchivedPages, type OwnedPage } from './archived-pages';
import type { BagWriter } from './bag-writer';
import { numberClass, officeOf, type Archived } from './numbers';
import { LINE_FILES, recordLines, recordWhole, VERSIONS, WHOLE_FILES } from './record-rows';
import { rubricHtml } from '$core/archive/rubric-html';

/** So many pages are read and written at once. */
const PORTION = 30;
const ENDINGS: Record<string, string> = {
  'image/png': '.png',
  'image/jpeg': '.jpg',
  'image/gif': '.gif',
  'image/webp': '.webp',
};

/** Numbers from 1, some at once: the first and the last of each portion. */
const portionsOf = (pages: number): (readonly [number, number])[] =>
  Array.from({ length: Math.ceil(pages / PORTION) }, (_, n) => [
    n * PORTION + 1,
    Math.min((n + 1) * PORTION, pages),
  ]);

/** What is known of a class while its archive is written. */
interface About {
  title: string;
  zone: string;
  /** What is missing then is missing. */
  archivedAt: Date;
  students: readonly { id: string; family: string; given: string }[];
  assignments: readonly { id: string; title: string }[];
  /** Endings of the pictures, by their names. */
  pictures: ReadonlyMap<string, string>;
  pages: number;
}

async function readAbout(tx: Tx, { class: klass, student }: Archived): Promise<About> {
  const row = await tx
    .selectFrom('class')
    .innerJoin('course', 'course.id', 'class.course_id')
    .innerJoin('school', 'school.id', 'class.school_id')
    .innerJoin('term', 'term.id', 'class.term_id')
    .select(['class.name', 'course.title', 'term.name as term', 'school.time_zone'])
    .select(['class.brought', 'class.archived_at'])
    .where('class.id', '=', klass)
    .executeTakeFirstOrThrow();
  const calendar = row.brought && Brought.parse(row.brought).calendar;
  const students = await tx
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .innerJoin(
      sql<{ n: number; id: string }>`archived_person`.as('numbered'),
      'numbered.id',
      'person.id',
    )
    .select(['person.id', 'family', 'given'])
    .where('class_id', '=', klass)
    .$if(student !== null, (query) => query.where('person.id', '=', student))
    .orderBy('numbered.n')
    .execute();
  const assignments = await tx
    .selectFrom('assignment')
    .innerJoin(
      sql<{ n: number; id: string }>`archived_assignment`.as('numbered'),
      'numbered.id',
      'assignment.id',
    )
    .innerJoin('assignment_class as handed', 'handed.assignment_id', 'assignment.id')
    .leftJoin('unit', 'unit.id', 'handed.unit_id')
    .select(['assignment.id', 'assignment.title'])
    .where('handed.class_id', '=', klass)
    .orderBy('unit.place')
    .orderBy('handed.handed_out_at')
    .orderBy('numbered.n')
    .execute();
  const pictures = await tx
    .selectFrom('file')
    .select(['hash', 'type'])
    .where('hash', 'in', (eb) =>
      eb
        .selectFrom('picture_place')
        .select('picture_place.hash')
        .where('page_id', 'in', sql<string>`(select id from archived_page)`),
    )
    .orderBy('hash')
    .execute();
  const { rows } = await sql<{ n: number }>`select count(*)::int as n from archived_page`.execute(
    tx,
  );
  return {
    title: `${row.name} ${row.title}, ${calendar?.term.name ?? row.term}`,
    archivedAt: row.archived_at ?? new Date(),
    zone: calendar?.time_zone ?? row.time_zone,
    students,
    assignments,
    pictures: new Map(pictures.map(({ hash, type }) => [hash, ENDINGS[type] ?? ''])),
    pages: rows[0]?.n ?? 0,
  };
}

/**
 * Writes all that an archive holds, from one moment of the database.
 * @param progress told how many of all pages are done
 * @returns its title
 */
export async function writeBag(
  tx: Tx,
  archived: Archived,
  open: (title: string, at: Date) => BagWriter,
  progress: (done: number, total: number) => Promise<void>,
): Promise<{ title: string; bag: BagWriter }> {
  await numberClass(tx, archived);
  const about = await readAbout(tx, archived);
  const names = await readArchivedNames(tx, archived);
  const own = archived.student === null ? null : names.get(archived.student);
  const title = own ? `${about.title}, ${own}` : about.title;
  const bag = open(title, about.archivedAt);
  const places = new FilePlaces(about.students, archived.student);
  const paths: FilePaths = new Map();
  const written = await writePages(tx, archived, { about, names, bag, places, paths, progress });
  const others = await writeMaterials(tx, archived, { about, bag, places, written });
  await writeTables(tx, archived, { about, bag, places });
  const standing = await readStanding(tx, archived);
  await bag.add(
    'index.html',
    indexHtml({
      title,
      about: [`${about.students.length} students`, `${about.assignments.length} assignments`],
      assignments: about.assignments.map((one) => one.title),
      students: about.students.map(({ id, family, given }) => ({
        name: `${family}, ${given}`,
        copies: about.assignments.map((assignment) => {
          const theirs = written.filter(
            ({ page }) =>
              page.assignment === assignment.id &&
              (page.student === id || page.members.includes(id)),
          );
          return theirs.map(({ page, path, says }) => {
            const stands = standing.get(page.id) ?? says;
            return { path, says: theirs.length > 1 ? `${says}: ${stands}` : stands };
          });
        }),
        own: written.flatMap(({ page, ...placed }) =>
          page.kind === 'own page' && page.student === id ? placed : [],
        ),
      })),
      others,
    }),
  );
  await writeRecord(tx, archived, { bag, pages: about.pages, paths });
  return { title, bag };
}

/** How copies stand, in a word or in points, by their ids: for a student as they see it. */
async function readStanding(
  tx: Tx,
  { class: klass, student }: Archived,
): Promise<ReadonlyMap<string, string>> {
  const copies =
    student === null
      ? await readCopies(tx, { class: klass }, '')
      : (await readCopies(tx, { student }, student)).map((copy) => asStudentSees(copy, student));
  const most = new Map(
    (
      await tx
        .selectFrom('assignment')
        .innerJoin('assignment_class as handed', 'handed.assignment_id', 'assignment.id')
        .select(['assignment.id', 'points'])
        .where('handed.class_id', '=', klass)
        .execute()
    ).map(({ id, points }) => [id, points]),
  );
  return new Map(
    copies.map(({ id, assignment, points, facts }) => {
      const of = most.get(assignment);
      if (points === null) return [id, stateOf(facts)];
      return [id, `${writePoints(points)}${of ? ` of ${writePoints(of)}` : ''}`];
    }),
  );
}

interface Writing {
  about: About;
  bag: BagWriter;
  places: FilePlaces;
}
/** A page that was written; its text is not kept. */
type Written = Placed & {
  page: Pick<OwnedPage, 'id' | 'assignment' | 'student' | 'members' | 'kind' | 'area'>;
};

async function writePages(
  tx: Tx,
  archived: Archived,
  writing: Writing & {
    names: ReadonlyMap<string, string>;
    paths: FilePaths;
    progress: (done: number, total: number) => Promise<void>;
  },
): Promise<Written[]> {
  const { about, names, bag, places, paths, progress } = writing;
  const written: Written[] = [];
  const portions = portionsOf(about.pages).map((range) => async () => ({
    last: range[1],
    pages: await readArchivedPages(tx, range, archived, names),
  }));
  for await (const { last, pages } of readAhead(portions)) {
    // To take home go a student's pages; what they began as is a part of the record.
    const shown = pages.filter(
      ({ kind }) => archived.student === null || kind === 'copy' || kind === 'own page',
    );
    const folders = new Map(shown.map((page) => [page.id, places.folderOf(page)]));
    const attached = await writeAttached(tx, { bag, places, paths }, folders);
    await writeSaidFiles(tx, archived, { bag, places, paths }, folders);
    for (const page of shown) {
      const path = places.give(places.folderOf(page), page.title, '.html');
      const whose =
        page.student === null
          ? page.group || (page.kind === 'copy' ? 'whole class' : (page.area ?? page.kind))
          : (names.get(page.student) ?? '');
      const html = archivedHtml(
        { ...page, attached: attached.get(page.id) ?? [], about: [whose, about.title] },
        about.zone,
        {
          pictureAt: (hash) => `${up(path)}pictures/${hash}${about.pictures.get(hash) ?? '.png'}`,
          fileAt: (file) => paths.get(file)?.split('/').at(-1) ?? '',
        },
      );
      await bag.add(path, html);
      const { id, assignment, student, members, kind, area } = page;
      written.push({
        path,
        says: page.title,
        page: { id, assignment, student, members, kind, area },
      });
    }
    await progress(last, about.pages);
  }
  return written;
}

/** Rubrics and pictures. @returns what the first page leads to besides students' work */
async function writeMaterials(
  tx: Tx,
  { student }: Archived,
  { about, bag, places, written }: Writing & { written: readonly Written[] },
): Promise<ArchiveIndex['others']> {
  const rubrics: Placed[] = [];
  if (student === null) {
    const rows = await tx
      .selectFrom('rubric')
      .innerJoin(
        sql<{ n: number; id: string }>`archived_rubric`.as('numbered'),
        'numbered.id',
        'rubric.id',
      )
      .select(['title', 'body'])
      .orderBy('numbered.n')
      .execute();
    for (const { title, body } of rows) {
      const table = readRubric(body);
      const path = places.give('materials', title, '.html');
      await bag.add(path, rubricHtml(title, table));
      await bag.add(
        places.give('materials', title, '.xlsx'),
        await withoutDates(await writeXlsx(title, rowsFromRubric(table)), about.archivedAt),
      );
      rubrics.push({ path, says: title });
    }
  }
  for (const [hash, ending] of about.pictures) {
    const { bytes } = await tx
      .selectFrom('file')
      .select('bytes')
      .where('hash', '=', hash)
      .executeTakeFirstOrThrow();
    await bag.add(`pictures/${hash}${ending}`, bytes);
    await bag.add(`record/files/${hash}`, bytes);
  }
  await writeStampPictures(tx, bag, about.pictures);
  const inArea = (area: string) =>
    written.flatMap(({ page, path, says }) =>
      (page.kind === 'class page' ? page.area : 'original') === area &&
      page.kind !== 'copy' &&
      page.kind !== 'own page'
        ? { path, says }
        : [],
    );
  return [
    { title: 'What copies were made from', files: inArea('original') },
    { title: 'Welcome page', files: inArea('welcome') },
    { title: 'On the shelf', files: inArea('shelf') },
    { title: 'On the worktable', files: inArea('worktable') },
    { title: 'In the cupboard', files: inArea('cupboard') },
    { title: 'Rubrics', files: rubrics },
    ...(student === null
      ? [
          {
            title: 'Tables',
            files: [
              { path: 'gradebook.csv', says: 'Gradebook' },
              { path: 'roster.csv', says: 'Roster' },
            ],
          },
        ]
      : []),
  ];
}

/** The gradebook and the roster, as tables. */
async function writeTables(
  tx: Tx,
  { class: klass, student }: Archived,
  { bag, about: { archivedAt } }: Writing,
) {
  if (student !== null) return;
  const { rules, columns } = await readGradeView(tx, klass);
  const people = await tx
    .selectFrom('enrolment')
    .innerJoin('person', 'person.id', 'enrolment.person_id')
    .innerJoin(
      sql<{ n: number; id: string }>`archived_person`.as('numbered'),
      'numbered.id',
      'person.id',
    )
    .select(['person.id', 'family', 'given', 'email', 'joined_at', 'left_at'])
    .select(sql<string | null>`${officeOf(klass)}`.as('office'))
    .where('enrolment.class_id', '=', klass)
    .orderBy('numbered.n')
    .execute();
  const here = people.filter(({ left_at }) => left_at === null);
  const copies = await readCopies(tx, { class: klass }, '');
  const rows = gradeRows(
    { columns, rules },
    copies,
    here.map(({ id }) => id),
    archivedAt.getTime(),
  );
  await bag.add('gradebook.csv', writeCsv(rowsFromGradebook({ columns, rules }, here, rows)));
  await bag.add(
    'roster.csv',
    writeCsv([
      ['Family name', 'Given name', 'Office number', 'E-mail', 'Joined', 'Left'],
      ...people.map((one) => [
        one.family,
        one.given,
        one.office ?? '',
        one.email,
        one.joined_at.toISOString(),
        one.left_at?.toISOString() ?? '',
      ]),
    ]),
  );
}

async function writeRecord(
  tx: Tx,
  archived: Archived,
  { bag, pages, paths }: { bag: BagWriter; pages: number; paths: FilePaths },
) {
  for (const file of WHOLE_FILES)
    await bag.add(`record/${file}`, await recordWhole(tx, file, archived));
  for (const file of LINE_FILES) {
    const reads = portionsOf(pages).map((range) => () => recordLines(tx, file, range, archived));
    if (file === 'snapshots.ndjson' && archived.student !== null) reads.push(() => beginnings(tx));
    await bag.add(`record/${file}`, readAhead(reads));
  }
  await bag.add(
    'record/attached.ndjson',
    readAhead(portionsOf(pages).map((range) => () => attachedLines(tx, range, paths))),
  );
  await bag.add(
    'record/said-files.ndjson',
    readAhead(portionsOf(pages).map((range) => () => saidFileLines(tx, archived, range, paths))),
  );
  for (const { name, schema } of recordSchemas())
    await bag.add(`record/schema/${name}`, `${JSON.stringify(schema, null, 2)}\n`);
}

/** What a student's copies began as: the pages of the school without how they were written. */
async function beginnings(tx: Tx): Promise<string> {
  const { rows } = await sql<{ n: number; id: string; version: number; at: string }>`
    select numbered.n, page.id, begun.version, to_json(page.made_at)::text as at
    from archived_page numbered join page on page.id = numbered.id
    cross join lateral (${VERSIONS}) begun
    where page.kind not in ('copy', 'own page') order by numbered.n, begun.version`.execute(tx);
  const lines: string[] = [];
  for (const { n, id, version, at } of rows) {
    const origin = { id, version, source_id: null, source_version: null };
    const { doc } = await readPage(tx, origin, version);
    lines.push(
      `${JSON.stringify({ page: n, version, at: JSON.parse(at), doc: doc.toJSON(), authorship: [], parts: partsOf(doc) })}\n`,
    );
  }
  return lines.join('');
}
