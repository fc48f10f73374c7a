import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { beginAs } from '../../src/lib/server/copy/own-pages';
import { beginThread, readMargin } from '../../src/lib/server/copy/threads';
import { beginRubric } from '../../src/lib/server/course/rubrics';
import { useApp } from '../support/app';
import { handOutAs, setStaffAs, withdrawAs } from '../support/deeds';
import { readHandlers, type Handler } from '../support/handlers';
import { addPerson, assign, makeSchool, PASSWORD, questionPage } from '../support/school';
import { Server } from '../support/server';
import { Visitor } from '../support/visitor';
import { toComment, inCourse, newPage } from '../support/grants';

/**
 * Who may what, written by hand and not read from the code: every handler of every route, as ten kinds of people, about
 * every kind of page. A handler that does not stand here fails the test.
 */

const ROLES = [
  'lead',
  'co',
  'marker',
  'stranger',
  'office',
  'one',
  'two',
  'other',
  'left',
  'nobody',
] as const;
type Role = (typeof ROLES)[number];

const ALL = ROLES.join(' ');
const SIGNED_IN = 'lead co marker stranger office one two other left';
const TEACHERS = 'lead co marker stranger';
const STUDENTS = 'one two other left';
const STAFF = 'lead co marker';
const LEADING = 'lead co';
/** Student one and two are in the class, and so in its crew's page; `left` was in both. */
const CLASSMATES = 'one two';

/** For everybody, and all they do is to send people on, or to end the session. */
const LEADING_ON = ['GET /', 'GET /sign-out', 'POST /sign-out', 'POST /account endOthers'];

/** Handlers that are about no page. */
const POLICY: Record<string, string> = {
  'GET +layout /': ALL,
  'GET /calendar': SIGNED_IN,
  'POST /calendar renew': SIGNED_IN,
  'GET /calendar/[secret]': '',
  'GET /health': ALL,
  'GET /live': SIGNED_IN,
  'GET /find': SIGNED_IN,
  'POST /files': SIGNED_IN,
  'GET /files/[hash]': '',
  'GET /mailbox': SIGNED_IN,
  'POST /mailbox open': SIGNED_IN,
  'POST /mailbox handIns': SIGNED_IN,
  'POST /mailbox mails': SIGNED_IN,
  'POST /mailbox read': SIGNED_IN,
  'GET /sign-in': ALL,
  'POST /sign-in default': ALL,
  'GET /welcome/[token]': '',
  'POST /welcome/[token] default': ALL,
  'GET /desk': TEACHERS,
  'GET /headcount': TEACHERS,
  'POST /desk/put-off': TEACHERS,
  'GET /phrasebook': TEACHERS,
  'POST /phrasebook add': TEACHERS,
  'POST /phrasebook change': TEACHERS,
  'POST /phrasebook away': TEACHERS,
  'POST /phrasebook read': TEACHERS,
  'GET /phrasebook/table': TEACHERS,
  'GET /phrasebook/phrases': TEACHERS,
  'POST /phrasebook/phrases': TEACHERS,
  'GET /work': STUDENTS,
  'GET /work/instead': STUDENTS,
  'POST /work answer': STUDENTS,
  'GET /school': 'office',
  'POST /school answer': 'office',
  'POST /school add': 'office',
  'POST /school change': 'office',
  'POST /school file': 'office',
  'POST /school office': 'office',
  'POST /school passwords': 'office',
  'POST /school disable': 'office',
  'GET /school/work': 'office',
  'POST /school/work again': 'office',
  'GET /account': SIGNED_IN,
  'POST /account password': SIGNED_IN,
  'POST /account end': SIGNED_IN,
  'GET /password': ALL,
  'POST /password default': ALL,
  'GET /password/[token]': '',
  'POST /password/[token] default': ALL,
  'GET /school/calendar': 'office',
  'POST /school/calendar write': 'office',
  'POST /school/calendar drop': 'office',
  'POST /school/calendar quiet': 'office',
  'POST /school/calendar zone': 'office',
  'GET /courses': TEACHERS,
  'POST /courses begin': TEACHERS,
  'GET /courses/[course]': 'lead',
  'POST /courses/[course] rename': 'lead',
  'POST /courses/[course] unit': 'lead',
  'POST /courses/[course] dropUnit': 'lead',
  'POST /courses/[course] begin': 'lead',
  'POST /courses/[course] kind': 'lead',
  'POST /courses/[course] adapt': 'lead',
  'POST /courses/[course] away': 'lead',
  'POST /courses/[course] bringBack': 'lead',
  'POST /courses/[course] changeNote': 'lead',
  'POST /courses/[course] note': 'lead',
  'POST /courses/[course] settle': 'lead',
  'POST /courses/[course] remove': 'lead',
  'POST /courses/[course] share': 'lead',
  'GET /courses/[course]/codes': 'lead',
  'POST /courses/[course]/codes away': 'lead',
  'POST /courses/[course]/codes read': 'lead',
  'PUT /courses/[course]/codes/tags': 'lead',
  'POST /courses/[course]/import': 'lead',
  'PUT /courses/[course]/order': 'lead',
  'POST /courses/[course]/paste': 'lead',
  'GET /courses/[course]/rubrics/[rubric]': 'lead',
  'POST /courses/[course]/rubrics/[rubric] back': 'lead',
  'POST /courses/[course]/rubrics/[rubric] copy': 'lead',
  'POST /courses/[course]/rubrics/[rubric] read': 'lead',
  'PUT /courses/[course]/rubrics/[rubric]': 'lead',
  'GET /courses/[course]/rubrics/[rubric]/table': 'lead',
  'GET /classes/new': TEACHERS,
  'POST /classes/new default': TEACHERS,
  'GET /classes/[class]': STAFF,
  'GET /classes/[class]/assignments/[assignment]': STAFF,
  'GET /classes/[class]/assignments/[assignment]/parts': STAFF,
  'GET /classes/[class]/assignments/[assignment]/alike': STAFF,
  'POST /classes/[class]/assignments/[assignment] withdraw': LEADING,
  'POST /classes/[class]/assignments/[assignment] undo': LEADING,
  'POST /classes/[class]/assignments/[assignment] give': LEADING,
  'POST /classes/[class]/assignments/[assignment] allow': LEADING,
  'POST /classes/[class]/assignments/[assignment] check': LEADING,
  'POST /classes/[class]/assignments/[assignment]/gaps': LEADING,
  'GET /classes/[class]/assignments/[assignment]/collecting': LEADING,
  'POST /classes/[class]/assignments/[assignment]/collecting': LEADING,
  'GET /classes/[class]/assignments/[assignment]/collecting/sheets': LEADING,
  'GET /classes/[class]/assignments/[assignment]/collecting/cut/[file]': LEADING,
  'GET /classes/[class]/assignments/[assignment]/collecting/files/[file]': LEADING,
  'POST /classes/[class]/assignments/[assignment]/collecting/uploads': LEADING,
  'PATCH /classes/[class]/assignments/[assignment]/collecting/uploads/[upload]': LEADING,
  // Of the file that one is sending.
  'HEAD /classes/[class]/assignments/[assignment]/collecting/uploads/[upload]': 'lead',
  'DELETE /classes/[class]/assignments/[assignment]/collecting/uploads/[upload]': 'lead',
  'GET /classes/[class]/assignments/[assignment]/as': STAFF,
  'GET /classes/[class]/assignments/[assignment]/change': LEADING,
  'POST /classes/[class]/assignments/[assignment]/change': LEADING,
  'POST /classes/[class]/assignments/[assignment]/correct': LEADING,
  'PUT /classes/[class]/assignments/[assignment]/counting': LEADING,
  'POST /classes/[class]/assignments/[assignment]/rubric-points': LEADING,
  'POST /classes/[class]/assignments/[assignment]/feedback-waits': LEADING,
  'GET /classes/[class]/build': LEADING,
  'POST /classes/[class]/build default': LEADING,
  'GET /classes/[class]/gradebook': STAFF,
  'PUT /classes/[class]/gradebook': LEADING,
  'GET /classes/[class]/gradebook/table': STAFF,
  'GET /classes/[class]/groups': LEADING,
  'POST /classes/[class]/groups away': LEADING,
  'PUT /classes/[class]/groups': LEADING,
  'GET /classes/[class]/hand-out': LEADING,
  'POST /classes/[class]/hand-out/[hand]': LEADING,
  'PUT /classes/[class]/hand-out/[hand]': LEADING,
  'DELETE /classes/[class]/hand-out/[hand]': LEADING,
  'POST /classes/[class]/hand-out/templates': LEADING,
  'GET /classes/[class]/hours': STAFF,
  'GET /classes/[class]/gaps': STAFF,
  'POST /classes/[class]/gaps': LEADING,
  'POST /classes/[class]/gaps/undo': LEADING,
  'GET /classes/[class]/remind': LEADING,
  'POST /classes/[class]/remind': LEADING,
  'GET /classes/[class]/plan': `${STAFF} ${CLASSMATES}`,
  'POST /classes/[class]/plan unit': LEADING,
  'POST /classes/[class]/plan dropUnit': LEADING,
  'POST /classes/[class]/plan begin': LEADING,
  'POST /classes/[class]/plan area': LEADING,
  'POST /classes/[class]/plan toCourse': LEADING,
  'POST /classes/[class]/plan away': LEADING,
  'POST /classes/[class]/plan changeNote': LEADING,
  'POST /classes/[class]/plan note': LEADING,
  'POST /classes/[class]/plan settle': LEADING,
  'POST /classes/[class]/plan open': LEADING,
  'POST /classes/[class]/plan stay': LEADING,
  'POST /classes/[class]/plan close': LEADING,
  'POST /classes/[class]/plan store': LEADING,
  'GET /classes/[class]/close': 'lead',
  'POST /classes/[class]/close store': LEADING,
  'POST /classes/[class]/close dropDraft': LEADING,
  'POST /classes/[class]/close archive': 'lead',
  // Of a class that is archived alone.
  'GET /classes/[class]/archive': STAFF,
  'POST /classes/[class]/archive openAgain': '',
  'POST /classes/[class]/archive until': '',
  'POST /classes/[class]/archive again': '',
  'GET /classes/[class]/archive/file': '',
  'GET /classes/open': TEACHERS,
  'POST /classes/open': TEACHERS,
  // Of an archive that they are bringing.
  'POST /classes/open/[archive]': '',
  'PUT /classes/open/[archive]/[piece]': '',
  'PUT /classes/[class]/plan/codes': LEADING,
  'PUT /classes/[class]/plan/order': LEADING,
  'POST /classes/[class]/plan/paste': LEADING,
  'GET /classes/[class]/points': CLASSMATES,
  'GET /classes/[class]/roster': LEADING,
  'POST /classes/[class]/roster undo': LEADING,
  'POST /classes/[class]/roster passwords': LEADING,
  'POST /classes/[class]/roster student': LEADING,
  'POST /classes/[class]/set-up remove': 'lead',
  'POST /classes/[class]/roster password': LEADING,
  'POST /classes/[class]/roster/apply': LEADING,
  'POST /classes/[class]/roster/compare': LEADING,
  'GET /classes/[class]/set-up': LEADING,
  'POST /classes/[class]/set-up about': LEADING,
  'POST /classes/[class]/set-up joining': LEADING,
  'POST /classes/[class]/set-up staff': LEADING,
  'POST /classes/[class]/set-up slot': LEADING,
  'POST /classes/[class]/set-up dropSlot': LEADING,
  'GET /classes/[class]/workbook': CLASSMATES,
  'POST /classes/[class]/workbook begin': CLASSMATES,
  'POST /classes/[class]/workbook away': CLASSMATES,
  'POST /classes/[class]/workbook takeHome': CLASSMATES,
  'GET /classes/[class]/workbook/take-home': CLASSMATES,
  'GET /classes/[class]/workbook/[student]': STAFF,
  'GET /classes/[class]/folio': CLASSMATES,
  'POST /classes/[class]/folio begin': CLASSMATES,
  'POST /classes/[class]/folio change': CLASSMATES,
  'POST /classes/[class]/folio rename': CLASSMATES,
  'GET /classes/[class]/folios': `${STAFF} ${CLASSMATES}`,
  // Of a student who has none, classmates see nothing.
  'GET /classes/[class]/folios/[student]': STAFF,
};

/** The kinds of pages; what is meant by each is made in `makePages`. */
const PAGES = [
  'copy',
  'crew',
  'read',
  'withdrawn',
  'original',
  'shelf',
  'worktable',
  'cupboard',
  'own',
] as const;
type PageName = (typeof PAGES)[number];
type ByPage = Record<PageName, string>;

const NOBODY: ByPage = {
  copy: '',
  crew: '',
  read: '',
  withdrawn: '',
  original: '',
  shelf: '',
  worktable: '',
  cupboard: '',
  own: '',
};
const READ: ByPage = {
  copy: `${STAFF} one`,
  crew: `${STAFF} ${CLASSMATES}`,
  read: `${STAFF} ${CLASSMATES}`,
  withdrawn: STAFF,
  original: 'lead',
  shelf: `${STAFF} ${CLASSMATES}`,
  worktable: `${STAFF} ${CLASSMATES}`,
  cupboard: STAFF,
  own: `${STAFF} one`,
};
/** What concerns copies alone. */
const COPIES = (who: Partial<ByPage>): ByPage => ({ ...NOBODY, ...who });
const MARKING = COPIES({ copy: STAFF, crew: STAFF, read: STAFF, withdrawn: STAFF });

/** How something was written: for whoever may write it, and the staff of its class. */
const HISTORY = COPIES({
  worktable: `${STAFF} ${CLASSMATES}`,
  own: `${STAFF} one`,
  copy: `${STAFF} one`,
  crew: `${STAFF} ${CLASSMATES}`,
  read: `${STAFF} ${CLASSMATES}`,
  withdrawn: STAFF,
});

/** What is taught from, of a course and of a class. */
const MATERIALS: ByPage = {
  ...NOBODY,
  original: 'lead',
  shelf: LEADING,
  worktable: LEADING,
  cupboard: LEADING,
};
const THREADS: ByPage = {
  ...NOBODY,
  copy: `${STAFF} one`,
  crew: `${STAFF} ${CLASSMATES}`,
  own: `${STAFF} one`,
  read: STAFF,
  withdrawn: STAFF,
};

const WRITE: ByPage = {
  copy: `${LEADING} one`,
  crew: `${LEADING} ${CLASSMATES}`,
  read: LEADING,
  withdrawn: LEADING,
  original: 'lead',
  shelf: LEADING,
  worktable: `${LEADING} ${CLASSMATES}`,
  cupboard: LEADING,
  own: 'one',
};

const PAGE_POLICY: Record<string, ByPage> = {
  'GET /pages/[page]': READ,
  'GET /pages/[page]/steps': READ,
  'POST /pages/[page]/steps': WRITE,
  'GET /pages/[page]/own-sitting': WRITE,
  'POST /pages/[page]/here': WRITE,
  'GET /room/[page]': MATERIALS,
  'GET /pages/[page]/set-aside': READ,
  'POST /pages/[page]/set-aside': READ,
  'PUT /pages/[page]/keys': MATERIALS,
  'POST /pages/[page]/marking': MARKING,
  'POST /pages/[page]/proposals': MARKING,
  'POST /pages/[page]/proposals/withdraw': MARKING,
  'POST /pages/[page]/proposals/decide': COPIES({ copy: 'one', crew: CLASSMATES }),
  'GET /pages/[page]/peek': MARKING,
  'POST /pages/[page]/moves': COPIES({ copy: 'one', crew: CLASSMATES }),
  'POST /pages/[page]/uploads': COPIES({ copy: 'one', crew: CLASSMATES }),
  'PATCH /pages/[page]/uploads/[upload]': COPIES({ copy: 'one', crew: CLASSMATES }),
  // Of the file that one is sending.
  'HEAD /pages/[page]/uploads/[upload]': COPIES({ copy: 'one', crew: 'one' }),
  'DELETE /pages/[page]/uploads/[upload]': COPIES({ copy: 'one', crew: 'one' }),
  'GET /pages/[page]/attached/[attachment]': READ,
  'GET /pages/[page]/attached/[attachment]/page': READ,
  'POST /pages/[page]/attached/[attachment]/look': THREADS,
  'POST /pages/[page]/attached': COPIES({ copy: 'one', crew: CLASSMATES }),
  'POST /pages/[page]/attached/[attachment]': COPIES({ copy: 'one', crew: CLASSMATES }),
  'GET /pages/[page]/feedback': COPIES({ copy: 'one', crew: CLASSMATES, read: CLASSMATES }),
  'GET /pages/[page]/standing': COPIES({ copy: 'one', crew: CLASSMATES, read: CLASSMATES }),
  'POST /pages/[page]/opened': COPIES({ copy: 'one', crew: CLASSMATES, read: CLASSMATES }),
  'GET /pages/[page]/history': HISTORY,
  'GET /pages/[page]/history/[version]': HISTORY,
  'POST /pages/[page]/history': {
    ...COPIES({ copy: `${LEADING} one`, crew: `${LEADING} ${CLASSMATES}`, own: 'one' }),
    read: LEADING,
    withdrawn: LEADING,
  },
  'GET /pages/[page]/threads': THREADS,
  'POST /pages/[page]/threads': THREADS,
  'POST /pages/[page]/threads/[thread]': THREADS,
  'GET /work/[page]': COPIES({ copy: 'one', crew: CLASSMATES, read: CLASSMATES }),
  'GET /classes/[class]/marking/[page]': COPIES({ copy: STAFF, crew: STAFF, withdrawn: STAFF }),
  'GET /editor/[page]': MATERIALS,
  'GET /editor/[page]/history': MATERIALS,
  'GET /editor/[page]/history/[version]': MATERIALS,
  'POST /editor/[page]/history': MATERIALS,
  'POST /editor/[page] settled': MATERIALS,
  'POST /editor/[page] leave': MATERIALS,
  'POST /editor/[page] offer': MATERIALS,
  'POST /editor/[page] rename': MATERIALS,
  'GET /read/[page]': { ...READ, copy: '', crew: '', read: '', withdrawn: '' },
  'POST /read/[page] take': { ...NOBODY, read: CLASSMATES, shelf: CLASSMATES },
};

/** What is left of a class that is archived; all else is refused to everybody. */
const ARCHIVED: Record<string, string> = {
  'GET /classes/[class]': STAFF,
  'GET /classes/[class]/assignments/[assignment]': STAFF,
  'GET /classes/[class]/assignments/[assignment]/parts': STAFF,
  'GET /classes/[class]/assignments/[assignment]/alike': STAFF,
  'GET /classes/[class]/assignments/[assignment]/as': STAFF,
  'GET /classes/[class]/gradebook': STAFF,
  'GET /classes/[class]/gradebook/table': STAFF,
  'GET /classes/[class]/gaps': STAFF,
  'GET /classes/[class]/hours': STAFF,
  'GET /classes/[class]/plan': STAFF,
  'GET /classes/[class]/points': CLASSMATES,
  'GET /classes/[class]/workbook': CLASSMATES,
  'GET /classes/[class]/workbook/[student]': STAFF,
  'GET /classes/[class]/folio': CLASSMATES,
  'GET /classes/[class]/folios': STAFF,
  'GET /classes/[class]/folios/[student]': STAFF,
  'GET /classes/[class]/archive': STAFF,
  'POST /classes/[class]/archive openAgain': 'lead',
  'POST /classes/[class]/archive until': 'lead',
  'POST /classes/[class]/archive again': 'lead',
  'GET /classes/[class]/archive/file': 'lead',
  'POST /classes/[class]/workbook takeHome': CLASSMATES,
  'GET /classes/[class]/workbook/take-home': CLASSMATES,
};
/** Student one's copy, and the one that students one and two share; their own pages, and nothing that lay in the class. */
const READ_ARCHIVED: ByPage = {
  ...NOBODY,
  copy: `${STAFF} one`,
  crew: `${STAFF} ${CLASSMATES}`,
  read: `${STAFF} ${CLASSMATES}`,
  withdrawn: STAFF,
  shelf: STAFF,
  worktable: STAFF,
  cupboard: STAFF,
  own: `${STAFF} one`,
};
const COPIES_ARCHIVED: ByPage = {
  ...READ_ARCHIVED,
  shelf: '',
  worktable: '',
  cupboard: '',
  own: '',
};
const HISTORY_ARCHIVED: ByPage = { ...READ_ARCHIVED, shelf: '', cupboard: '' };
const OWN_ARCHIVED = COPIES({ copy: 'one', crew: CLASSMATES, read: CLASSMATES });
const ARCHIVED_PAGES: Record<string, ByPage> = {
  'GET /pages/[page]': READ_ARCHIVED,
  'GET /pages/[page]/attached/[attachment]': READ_ARCHIVED,
  'GET /pages/[page]/attached/[attachment]/page': READ_ARCHIVED,
  'GET /pages/[page]/steps': READ_ARCHIVED,
  'GET /pages/[page]/set-aside': READ_ARCHIVED,
  // Says that own words which found no place are dealt with.
  'POST /pages/[page]/set-aside': READ_ARCHIVED,
  'GET /pages/[page]/peek': MARKING,
  'GET /pages/[page]/feedback': OWN_ARCHIVED,
  'POST /pages/[page]/opened': OWN_ARCHIVED,
  'GET /pages/[page]/standing': OWN_ARCHIVED,
  'GET /pages/[page]/history': HISTORY_ARCHIVED,
  'GET /pages/[page]/history/[version]': HISTORY_ARCHIVED,
  'GET /pages/[page]/threads': { ...COPIES_ARCHIVED, own: `${STAFF} one` },
  'GET /work/[page]': OWN_ARCHIVED,
  'GET /classes/[class]/marking/[page]': COPIES({ copy: STAFF, crew: STAFF, withdrawn: STAFF }),
  'GET /read/[page]': { ...READ_ARCHIVED, copy: '', crew: '', read: '', withdrawn: '' },
};

const test = useApp();
const ids = { class: '', course: '', rubric: '', assignment: '', student: '', thread: '' };
const pages = new Map<PageName, string>();
/** A file that student one is sending to a page, and one that is attached to it. */
const uploads = new Map<PageName, string>();
const attachments = new Map<PageName, string>();
/** A file that the lead is sending to be collected, and one that was. */
const collected = { upload: crypto.randomUUID(), file: '' };
const visitors = new Map<Role, Visitor>();
let server: Server;

beforeAll(async () => {
  const { app } = test;
  const school = await makeSchool(app, 3);
  const [one = '', , left = ''] = school.students;
  const co = await addPerson(app, school, 'co', 'teacher');
  await setStaffAs(app, school.teacher, school.class, co, 'co-teacher');
  const hand = async (delivery: 'one each' | 'one for all' | 'to read') => {
    const id = crypto.randomUUID();
    const { original } = await assign(app, school, { title: `To hand out ${delivery}` });
    await handOutAs(app, {
      id,
      by: school.teacher,
      at: new Date(),
      spec: plainSpec(original, school.class, {
        title: delivery,
        originals: [{ page: original, delivery }],
      }),
    });
    const rows = await app.db
      .selectFrom('page')
      .select(['id', 'student_id'])
      .where('assignment_id', '=', id)
      .execute();
    const page = rows.find(({ student_id }) => student_id === one) ?? rows[0];
    return { assignment: id, page: page?.id ?? '', original };
  };
  const copy = await hand('one each');
  const crew = await hand('one for all');
  const read = await hand('to read');
  const gone = await hand('one each');
  await withdrawAs(app, school.teacher, gone.assignment, school.class, true);
  const inArea = (area: 'shelf' | 'worktable' | 'cupboard') =>
    newPage(
      app.db,
      {
        at: new Date(),
        title: area,
        in: { kind: 'class page', class: school.class, area },
      },
      questionPage(),
    );
  const own = { school: school.id, class: school.class, student: one, title: 'Mine', unit: null };
  pages.set('copy', copy.page).set('crew', crew.page).set('read', read.page);
  pages.set('withdrawn', gone.page).set('original', copy.original);
  for (const area of ['shelf', 'worktable', 'cupboard'] as const)
    pages.set(area, await inArea(area));
  pages.set('own', await beginAs(app, own, questionPage()));
  await beginThread(app, await toComment(app, { page: copy.page, person: school.teacher }), {
    text: 'Hm?',
    anchor: null,
  });
  const { threads } = await readMargin(app, copy.page, { id: school.teacher, isStudent: false });
  ids.rubric = await beginRubric(app.db, await inCourse(app.db, school.course), {
    unit: null,
    title: 'R',
  });
  Object.assign(ids, { class: school.class, course: school.course, student: one });
  Object.assign(ids, { assignment: copy.assignment, thread: threads[0]?.id ?? '' });
  await app.db
    .updateTable('enrolment')
    .set({ left_at: new Date() })
    .where('person_id', '=', left)
    .execute();
  // There is an archive of the class, and of what students one and two have in it.
  for (const student_id of [null, ...school.students.slice(0, 2)])
    await app.db
      .insertInto('archive')
      .values({
        school_id: school.id,
        kind: student_id === null ? 'whole' : 'take-home',
        class_id: school.class,
        student_id,
        made_by: school.teacher,
        name: 'a.zip',
        finished_at: new Date('2999-01-01'),
        made_at: new Date('2999-01-01'),
      })
      .execute();
  server = await Server.start(test.url);
  const names: Record<Exclude<Role, 'nobody'>, string> = {
    lead: 'teacher',
    co: 'co',
    marker: 'marker',
    stranger: 'stranger',
    office: 'office',
    one: 'student1',
    two: 'student2',
    other: 'other',
    left: 'student3',
  };
  for (const role of ROLES) {
    const visitor = new Visitor(server.origin);
    if (role !== 'nobody')
      expect((await visitor.signIn(`${names[role]}${school.id}`, PASSWORD)).status).toBe(200);
    visitors.set(role, visitor);
  }
});
afterAll(() => server.stop());

const addressOf = (route: string, page: PageName) =>
  route
    .replace('[class]', ids.class)
    .replace('[course]', ids.course)
    .replace('[rubric]', ids.rubric)
    .replace('[hand]', crypto.randomUUID())
    .replace('[archive]', crypto.randomUUID())
    .replace('[piece]', '0')
    .replace('[version]', '0')
    .replace('[assignment]', ids.assignment)
    .replace('[student]', ids.student)
    .replace('[page]', pages.get(page) ?? '')
    .replace('[thread]', ids.thread)
    .replace('[hash]', 'f'.repeat(64))
    .replace(
      '[upload]',
      route.includes('/collecting/') ? collected.upload : (uploads.get(page) ?? ''),
    )
    .replace('[file]', collected.file)
    .replace('[attachment]', attachments.get(page) ?? '')
    .replace('[secret]', 'unknown')
    .replace('[token]', 'unknown');

/** What somebody is answered: `refused` also where they are sent to sign in, or told that there is no such thing. */
async function isRefused(role: Role, handler: Handler, page: PageName): Promise<boolean> {
  const { route, method, action, isData } = handler;
  const base = addressOf(route, page);
  const path = isData ? `${base === '/' ? '' : base}/__data.json` : base;
  const query =
    action && action !== 'default'
      ? `?/${action}`
      : route.endsWith('/as')
        ? `?student=${ids.student}`
        : '';
  const stop = new AbortController();
  const answer = await visitors.get(role)?.fetch(`${path}${query}`, {
    method,
    signal: stop.signal,
    ...(method === 'GET' || method === 'HEAD'
      ? {}
      : { body: action ? new URLSearchParams({}) : '{}' }),
    ...(action ? { headers: { 'x-sveltekit-action': 'true' } } : {}),
  });
  const isStream = answer?.headers.get('content-type')?.includes('event-stream');
  const body = isStream || (!isData && !action) ? null : await answer?.json().catch(() => null);
  stop.abort();
  let status = answer?.status ?? 0;
  if (body?.type === 'redirect') status = body.location?.startsWith('/sign-in') ? 401 : 200;
  else if (action && body?.type === 'error') status = body.status ?? body.error?.status ?? status;
  else if (action && body?.type === 'failure') status = 400;
  else if (isData) {
    const failed = body?.nodes?.find((node: { type: string } | null) => node?.type === 'error');
    status = failed?.status ?? status;
  }
  expect(status, `${handler.name} (${page}) as ${role}`).toBeLessThan(500);
  return [401, 403, 404, 303].includes(status);
}

/** A file that is attached to each page, once; and one that is on its way to each: what somebody gave up is there again. */
async function keepFiles() {
  const { db } = test.app;
  const { id: person_id, school_id } = await db
    .selectFrom('person')
    .select(['id', 'school_id'])
    .where('id', '=', ids.student)
    .executeTakeFirstOrThrow();
  const file = { school_id, person_id, name: 'a.txt', size: 2 };
  for (const [name, page_id] of attachments.size ? [] : pages) {
    const whole = await db
      .insertInto('upload')
      .values({ ...file, page_id, received: 2, finished_at: new Date() })
      .returning('id')
      .executeTakeFirstOrThrow();
    const attached = await db
      .insertInto('attachment')
      .values({
        school_id,
        page_id,
        upload_id: whole.id,
        made_by: person_id,
        found: 'fine',
        shown: JSON.stringify({ doc: {}, left: [] }),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    attachments.set(name, attached.id);
    uploads.set(name, crypto.randomUUID());
  }
  await db
    .insertInto('upload')
    .values([...pages].map(([name, page_id]) => ({ ...file, id: uploads.get(name), page_id })))
    .onConflict((conflict) => conflict.doNothing())
    .execute();
}

/** The same of what is collected for the assignment. */
async function keepCollected() {
  const { id: person_id, school_id } = await test.app.db
    .selectFrom('person')
    .innerJoin('class_staff', 'class_staff.person_id', 'person.id')
    .select(['person.id', 'person.school_id'])
    .where('class_id', '=', ids.class)
    .where('kind', '=', 'lead')
    .executeTakeFirstOrThrow();
  const to = { school_id, assignment_id: ids.assignment, class_id: ids.class };
  const file = { ...to, person_id, name: 'a.pdf', size: 2 };
  await test.app.db
    .insertInto('upload')
    .values({ ...file, id: collected.upload })
    .onConflict((conflict) => conflict.doNothing())
    .execute();
  if (collected.file) return;
  const { id } = await test.app.db
    .insertInto('upload')
    .values({ ...file, received: 2, finished_at: new Date() })
    .returning('id')
    .executeTakeFirstOrThrow();
  const kept = await test.app.db
    .insertInto('collected')
    .values({ ...to, upload_id: id, path: 'a.pdf', type: 'application/pdf', made_by: person_id })
    .returning('id')
    .executeTakeFirstOrThrow();
  collected.file = kept.id;
}

/** The class is open, and what this handler is about is there. */
async function openClass({ route }: Handler) {
  if (/\[(upload|attachment|file)\]/.test(route)) {
    await keepFiles();
    await keepCollected();
  }
  await test.app.db
    .updateTable('class')
    .set({ opened_at: new Date(), archived_at: null })
    .where('id', '=', ids.class)
    .execute();
}

/** A handler that reads changes nothing for whoever comes next. */
const reads = ({ method }: Handler) => method === 'GET' || method === 'HEAD';

async function wrongAbout(
  handler: Handler,
  allowed: string,
  page: PageName = 'copy',
  prepare: (handler: Handler) => Promise<unknown> = openClass,
) {
  const may = new Set(allowed.split(' '));
  const wrong: string[] = [];
  const look = async (role: Role) => {
    const refused = await isRefused(role, handler, page);
    if (refused === may.has(role))
      wrong.push(`${handler.name} (${page}) as ${role}: ${refused ? 'refused' : 'let in'}`);
  };
  if (reads(handler)) {
    await prepare(handler);
    await Promise.all(ROLES.map(look));
  } else
    for (const role of ROLES) {
      // What one request did to the class does not count for the next.
      await prepare(handler);
      await look(role);
    }
  return wrong;
}

/** Of which pages a handler is asked about a class's work: those of a page about each kind, others once. */
const pagesOf = (handler: Handler): readonly PageName[] => {
  if (handler.name in PAGE_POLICY) return PAGES;
  return handler.name.includes('[class]') ? ['copy'] : [];
};

/** Well over a thousand requests each; other tests run beside. */
const PATIENCE = 150_000;

describe('the matrix of rights', () => {
  it('names every handler of every route, and no other', async () => {
    const handlers = await readHandlers();
    const known = [...Object.keys(POLICY), ...Object.keys(PAGE_POLICY), ...LEADING_ON];
    expect(handlers.map(({ name }) => name).sort()).toEqual(known.sort());
    const files = readdirSync('src/routes', { recursive: true, encoding: 'utf8' });
    expect(files.filter((file) => file.endsWith('server.ts')).length).toBeGreaterThan(60);
    for (const file of files.filter((one) => one.endsWith('server.ts')))
      expect(readFileSync(join('src/routes', file), 'utf8')).toMatch(/allow(Anyone|Person|In|On)/);
  });

  it(
    'holds for everything that is about no page',
    async () => {
      const wrong: string[] = [];
      for (const handler of await readHandlers()) {
        const allowed = POLICY[handler.name];
        if (allowed === undefined || handler.name === 'GET +layout /') continue;
        wrong.push(...(await wrongAbout(handler, allowed)));
      }
      expect(wrong).toEqual([]);
    },
    PATIENCE,
  );

  it(
    'holds for every kind of page',
    async () => {
      const wrong: string[] = [];
      for (const handler of await readHandlers()) {
        const policy = PAGE_POLICY[handler.name];
        if (!policy) continue;
        for (const page of PAGES) wrong.push(...(await wrongAbout(handler, policy[page], page)));
      }
      expect(wrong).toEqual([]);
    },
    PATIENCE,
  );

  it(
    'lets nobody change anything in an archived class, and read what was theirs to read',
    async () => {
      const archive = (until: string) => () =>
        test.app.db
          .updateTable('class')
          .set({ opened_at: new Date(), archived_at: new Date(), read_until: until })
          .where('id', '=', ids.class)
          .execute();
      const wrong: string[] = [];
      const check = async (handler: Handler, allowed: string, page: PageName = 'copy') =>
        wrong.push(...(await wrongAbout(handler, allowed, page, archive('2999-01-01'))));
      for (const handler of await readHandlers()) {
        const { name } = handler;
        const policy = PAGE_POLICY[name];
        if (/\[class\]/.test(name) && !policy) await check(handler, ARCHIVED[name] ?? '');
        if (policy)
          for (const page of PAGES.filter((one) => one !== 'original'))
            await check(handler, ARCHIVED_PAGES[name]?.[page] ?? '', page);
      }
      for (const handler of await readHandlers())
        for (const page of pagesOf(handler).filter((one) => one !== 'original'))
          for (const role of ['one', 'two', 'left'] as const) {
            await archive('2000-01-01')();
            if (!(await isRefused(role, handler, page)))
              wrong.push(`${handler.name} (${page}) as ${role}, who may not read any more`);
          }
      await test.app.db
        .updateTable('class')
        .set({ archived_at: null, read_until: null })
        .where('id', '=', ids.class)
        .execute();
      expect(wrong).toEqual([]);
    },
    PATIENCE,
  );

  it(
    'gives students nothing of a class that is closed',
    async () => {
      const wrong: string[] = [];
      const close = () =>
        test.app.db
          .updateTable('class')
          .set({ opened_at: null })
          .where('id', '=', ids.class)
          .execute();
      for (const handler of await readHandlers())
        if (handler.name in PAGE_POLICY)
          for (const page of PAGES)
            for (const role of ['one', 'two', 'left'] as const) {
              await close();
              if (!(await isRefused(role, handler, page)))
                wrong.push(`${handler.name} (${page}) as ${role}`);
            }
      expect(wrong).toEqual([]);
    },
    PATIENCE,
  );
});
