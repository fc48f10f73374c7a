import { readLocalTime, writeLocalTime, type Lesson } from '../calendar/lessons';
import { sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';
import { writePoints } from '../marking/points';
import { isMeant, type Delivery, type DueWish, type HandOutWish } from './wish';

/** A class as it is when something is handed out in it. */
export interface ClassFacts {
  id: string;
  name: string;
  /** Whether its students see it. */
  open: boolean;
  students: readonly { id: string; name: string }[];
  /** Of the grouping that was chosen; empty for none. */
  groups: readonly { name: string; members: readonly string[] }[];
  /** When its term is over. */
  termEnds: number;
  /** Lessons of the term that end after it goes out, in order. */
  lessons: readonly Lesson[];
}

/** What a plan is made for. Instants in epoch milliseconds. */
export interface Situation {
  now: number;
  /** When it goes out; `now` for at once. */
  goesOut: number;
  timeZone: string;
  /** The classes of the wish, in its order. */
  classes: readonly ClassFacts[];
  /** Title and number of parts of every page of the wish. */
  pages: ReadonlyMap<string, { title: string; parts: number }>;
  /** The empty page that copies of `done or not` begin as. */
  blank: string;
}

/** A copy that is to be there: one student's, or one that several share. */
export interface PlannedCopy {
  class: string;
  /** The assignment's original that it stands for. */
  for: string;
  /** The page it begins as: that original, or one adapted from it. */
  source: string;
  delivery: Delivery;
  /** Whose alone it is; null for a shared one. */
  student: string | null;
  /** Of a shared one: its group's name, or empty for the whole class. */
  group: string;
  /** Who may see it. */
  members: readonly string[];
}

export interface HandOutPlan {
  /** When it is due in each class; null for never. */
  due: ReadonlyMap<string, number | null>;
  copies: PlannedCopy[];
  /** What will happen, in sentences. */
  sentences: string[];
  /** What may surprise; said before, never refused. */
  oddities: string[];
}

/** The lesson that ends a due time, if one does, and the lessons of its day. */
function lessonsOn(day: string, { lessons }: ClassFacts, timeZone: string) {
  return lessons.filter(({ ends }) => writeLocalTime(ends, timeZone).slice(0, 10) === day);
}

/** @returns an instant; null for never, undefined where the class has no such lesson */
function dueIn(wish: DueWish, klass: ClassFacts, { goesOut, timeZone }: Situation) {
  if (wish.kind === 'none') return null;
  if (wish.kind === 'at') return readLocalTime(wish.local, timeZone);
  return klass.lessons.filter(({ starts }) => starts > goesOut)[wish.nth - 1]?.ends;
}

/** The students who get it, by class; somebody in two of the classes gets it in the first. */
function audienceOf(wish: HandOutWish, classes: readonly ClassFacts[]) {
  const meant = isMeant(wish);
  const met = new Map<string, string>();
  const twice: { name: string; classes: string[] }[] = [];
  const audience = new Map<string, { id: string; name: string }[]>();
  for (const klass of classes) {
    const here = klass.students.filter(({ id }) => meant(id));
    const first = here.filter(({ id, name }) => {
      const before = met.get(id);
      if (before) twice.push({ name, classes: [before, klass.name] });
      return !before;
    });
    for (const { id } of first) met.set(id, klass.name);
    audience.set(klass.id, first);
  }
  return { audience, twice };
}

/** Who gets what, and what to say of it before it happens. The hand-out itself makes the same `copies`. */
export function planHandOut(wish: HandOutWish, situation: Situation): HandOutPlan {
  const { audience, twice } = audienceOf(wish, situation.classes);
  const originals =
    wish.form === 'done or not'
      ? [{ page: situation.blank, delivery: 'one each' as const }]
      : wish.originals;
  const oddities = new Set<string>();
  const copies: PlannedCopy[] = [];
  const due = new Map<string, number | null>();
  for (const klass of situation.classes) {
    const students = audience.get(klass.id) ?? [];
    for (const original of originals)
      copies.push(...copiesFor(original, klass, students, wish, oddities));
    const wanted = wish.classes.find((one) => one.class === klass.id)?.due ?? wish.due;
    const at = dueIn(wanted, klass, situation);
    if (at === undefined && wanted.kind === 'lesson')
      oddities.add(
        `${klass.name} has no ${nth(wanted.nth)} lesson after that, so it has no due time there.`,
      );
    due.set(klass.id, at ?? null);
    if (students.length === 0) oddities.add(`Nobody in ${klass.name} gets it.`);
    if (!klass.open) oddities.add(`${klass.name} is closed; its students see it when it opens.`);
    for (const one of dueOddities(at ?? null, klass, situation)) oddities.add(one);
  }
  for (const { name, classes } of twice)
    oddities.add(`${name} is in ${listed(classes)}, and gets it once, in ${classes[0]}.`);
  const all = new Set([...audience.values()].flat().map(({ id }) => id));
  for (const { page, instead, students } of wish.adapted) {
    const away = students.filter((id) => !all.has(id)).length;
    const title = situation.pages.get(page)?.title ?? 'The adapted page';
    if (away > 0)
      oddities.add(
        `“${title}” is meant for ${counted(away, 'student')} who ${away === 1 ? 'does' : 'do'} not get this.`,
      );
    if (!originals.some((one) => one.page === instead))
      oddities.add(`“${title}” stands for a page that is not handed out.`);
  }
  for (const { page, delivery } of originals)
    if (
      wish.form === 'pages' &&
      delivery !== 'to read' &&
      wish.guarded &&
      situation.pages.get(page)?.parts === 0
    )
      oddities.add(
        `“${situation.pages.get(page)?.title}” has no place for an answer, and its text is guarded: nobody could write on it.`,
      );
  return {
    due,
    copies,
    sentences: sentencesOf(wish, situation, copies, due),
    oddities: [...oddities],
  };
}

function copiesFor(
  { page, delivery }: { page: string; delivery: Delivery },
  klass: ClassFacts,
  students: readonly { id: string; name: string }[],
  wish: HandOutWish,
  oddities: Set<string>,
): PlannedCopy[] {
  const adapted = new Map<string, string>();
  for (const one of wish.adapted)
    if (one.instead === page)
      for (const id of one.students) if (!adapted.has(id)) adapted.set(id, one.page);
  // Written out, for there are thousands of them: spreading would cost more than all the rest.
  const alone = (id: string, how: Delivery): PlannedCopy => ({
    class: klass.id,
    for: page,
    source: adapted.get(id) ?? page,
    delivery: how,
    student: id,
    group: '',
    members: [id],
  });
  if (delivery === 'one each') return students.map(({ id }) => alone(id, 'one each'));
  const others = students.filter(({ id }) => !adapted.has(id)).map(({ id }) => id);
  const own = students
    .filter(({ id }) => adapted.has(id))
    .map(({ id }) => alone(id, delivery === 'to read' ? 'to read' : 'one each'));
  const shared = (group: string, members: readonly string[]): PlannedCopy => ({
    class: klass.id,
    for: page,
    source: page,
    delivery,
    student: null,
    group,
    members,
  });
  if (delivery !== 'one per group') return others.length > 0 ? [...own, shared('', others)] : own;
  const groups = klass.groups.map(({ name, members }) => ({
    name,
    members: others.filter((id) => members.includes(id)),
  }));
  for (const { name, members } of groups)
    if (members.length === 0)
      oddities.add(`${name} in ${klass.name} has nobody who gets it, so no page is made for it.`);
  const grouped = new Set(groups.flatMap(({ members }) => members));
  const lone = students.filter(({ id }) => others.includes(id) && !grouped.has(id));
  if (klass.groups.length === 0 && others.length > 0)
    oddities.add(`No groups are chosen for ${klass.name}, so everybody there gets a page alone.`);
  else
    for (const { name } of lone)
      oddities.add(`${name} is in no group of ${klass.name}, and gets a page alone.`);
  return [
    ...own,
    ...groups
      .filter(({ members }) => members.length > 0)
      .map(({ name, members }) => shared(name, members)),
    ...lone.map(({ id }) => alone(id, 'one each')),
  ];
}

const nth = (n: number) => (n === 1 ? '1st' : n === 2 ? '2nd' : n === 3 ? '3rd' : `${n}th`);

function dueOddities(
  due: number | null,
  klass: ClassFacts,
  { now, goesOut, timeZone }: Situation,
): string[] {
  if (due === null) return [];
  if (due <= now) return ['It is due in the past.'];
  if (due <= goesOut) return [`It is due in ${klass.name} before it goes out.`];
  const local = writeLocalTime(due, timeZone);
  if (due >= klass.termEnds)
    return [`It is due in ${local.slice(0, 4)}, after the term of ${klass.name} has ended.`];
  const clock = local.slice(11, 16);
  if (clock === '00:00') return ['It is due at midnight, when the reminder would wake people.'];
  const lessons = lessonsOn(local.slice(0, 10), klass, timeZone);
  if (lessons.length === 0)
    return [
      `${klass.name} has no lesson on ${sayTime(due, timeZone).split(',')[0]}, when it is due.`,
    ];
  if (!lessons.some(({ starts, ends }) => due >= starts && due <= ends))
    return [`It is due at ${clock}, when ${klass.name} has no lesson.`];
  return [];
}

function sentencesOf(
  wish: HandOutWish,
  situation: Situation,
  copies: readonly PlannedCopy[],
  due: ReadonlyMap<string, number | null>,
): string[] {
  const names = listed(situation.classes.map(({ name }) => name));
  const sentences: string[] = [];
  if (copies.length === 0) sentences.push(`Nobody is in ${names} yet, so no copy will be made.`);
  else if (wish.form === 'done or not')
    sentences.push(
      `${counted(copies.length, 'student')} will be asked to say when it is done; there is no page.`,
    );
  else
    for (const { page, delivery } of wish.originals) {
      const title = situation.pages.get(page)?.title ?? '';
      const of = wish.originals.length > 1 ? ` of “${title}”` : '';
      sentences.push(...deliverySentences(page, delivery, of, names, situation, copies));
    }
  const times = situation.classes.map(({ id, name }) => {
    const at = due.get(id) ?? null;
    return { name, says: at === null ? null : sayTime(at, situation.timeZone) };
  });
  const together = new Map<string | null, string[]>();
  for (const { name, says } of times) together.set(says, [...(together.get(says) ?? []), name]);
  const dues = [...together].map(([says, where]) => {
    const place = together.size > 1 ? ` in ${listed(where)}` : '';
    return says ? `due ${says}${place}` : `without a due time${place}`;
  });
  if (situation.goesOut > situation.now)
    sentences.push(`It goes out on ${sayTime(situation.goesOut, situation.timeZone)}.`);
  sentences.push(`It is ${listed(dues)}.`);
  const writable = wish.originals.filter(({ delivery }) => delivery !== 'to read');
  const parts = writable.reduce(
    (sum, { page }) => sum + (situation.pages.get(page)?.parts ?? 0),
    0,
  );
  if (wish.form === 'pages' && writable.length > 0)
    sentences.push(
      wish.guarded
        ? `Your text on the page is guarded: answers go in ${counted(parts, 'place')}.`
        : 'Your text is not guarded: students can change all of the page.',
    );
  if (wish.points !== null) sentences.push(`It counts for ${writePoints(wish.points)} points.`);
  if (wish.late === 'not taken') sentences.push('After its due time it is not taken any more.');
  return sentences;
}

function deliverySentences(
  page: string,
  delivery: Delivery,
  of: string,
  names: string,
  situation: Situation,
  all: readonly PlannedCopy[],
): string[] {
  const copies = all.filter((copy) => copy.for === page);
  const own = copies.filter(({ student }) => student !== null);
  const shared = copies.filter(({ student }) => student === null);
  const adapted = own.filter(({ source }) => source !== page);
  const plain = own.length - adapted.length;
  const readers = shared.reduce((sum, { members }) => sum + members.length, 0);
  const onlyThey =
    adapted.length === 1
      ? 'which only that student will see'
      : `which only those ${adapted.length} will see`;
  const apart =
    adapted.length > 0
      ? [`${counted(adapted.length, 'student')} will get a page adapted for them, ${onlyThey}.`]
      : [];
  if (delivery === 'one each') {
    if (own.length === 0) return [];
    const split =
      adapted.length > 0
        ? `: ${plain} of the page and ${adapted.length} of ${adapted.length === 1 ? 'an adapted page' : 'adapted pages'}, ${onlyThey}`
        : '';
    return [
      own.length === 1
        ? `1 copy${of} will be made, named for its student${split}.`
        : `${own.length} copies${of} will be made, each named for its student in ${names}${split}.`,
    ];
  }
  if (delivery === 'to read')
    return [
      ...(readers > 0
        ? [`${counted(readers, 'student')} will read the page${of}; nobody writes on it.`]
        : []),
      ...apart,
    ];
  if (delivery === 'one for all')
    return [
      ...shared.map(({ class: id, members }) => {
        const name = situation.classes.find((klass) => klass.id === id)?.name ?? '';
        return `1 page${of} will be shared by ${counted(members.length, 'student')} of ${name}.`;
      }),
      ...apart,
    ];
  return [
    ...(shared.length > 0
      ? [
          `${counted(shared.length, 'page')}${of} will be made, one for each group in ${names}, for ${counted(readers, 'student')}.`,
        ]
      : []),
    ...(plain > 0 ? [`${counted(plain, 'student')} will get a page${of} alone.`] : []),
    ...apart,
  ];
}
