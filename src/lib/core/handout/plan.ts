import { isHoliday, lessonsAfter, lessonsOn, type Timetable } from '../calendar/lessons';
import { dayOf, endOfDay, oddTime, readLocalTime, writeLocalTime } from '../calendar/local-time';
import type { Oddity, PlanFact } from './plan-facts';
import { isMeant, isSharedByClass, type Delivery, type DueSpec, type HandOutSpec } from './spec';

/** A class as it is when something is handed out in it. */
export interface ClassFacts {
  id: string;
  name: string;
  /** Whether its students see it. */
  open: boolean;
  students: readonly { id: string; name: string }[];
  /** Of the grouping that was chosen; empty for none. */
  groups: readonly { name: string; members: readonly string[] }[];
  timetable: Timetable;
}

/** What a plan is made for. Instants in epoch milliseconds. */
export interface Situation {
  now: number;
  /** When it goes out; `now` for at once. */
  goesOut: number;
  timeZone: string;
  /** The classes of the spec, in its order. */
  classes: readonly ClassFacts[];
  /** Title of every page of the spec, how many parts it has, and how many of them have an answer key. */
  pages: ReadonlyMap<string, { title: string; parts: number; keys: number }>;
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
  /** What will happen. */
  facts: PlanFact[];
  /** What may surprise. */
  oddities: Oddity[];
}

/** @returns an instant; null for never, undefined where the class has no such lesson */
function dueIn(spec: DueSpec, klass: ClassFacts, { goesOut, timeZone }: Situation) {
  if (spec.kind === 'none') return null;
  if (spec.kind === 'at') return readLocalTime(spec.local, timeZone);
  // One lesson may be going on when it goes out.
  const lessons = lessonsAfter(klass.timetable, goesOut, spec.nth + 1);
  return lessons.filter(({ starts }) => starts > goesOut)[spec.nth - 1]?.ends;
}

/** The students who get it, by class; somebody in two of the classes gets it in the first. */
function audienceOf(spec: HandOutSpec, classes: readonly Receivers[]) {
  const meant = isMeant(spec);
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

/** A class as far as it tells who gets what. */
export type Receivers = Pick<ClassFacts, 'id' | 'name' | 'students' | 'groups'>;

/**
 * The copies that a spec wants for classes as they are: what is handed out, and what is counted afterwards.
 * @param blank the empty page that copies of `done or not` begin as
 */
export function plannedCopies(spec: HandOutSpec, classes: readonly Receivers[], blank: string) {
  const { audience, twice } = audienceOf(spec, classes);
  const originals =
    spec.form === 'done or not' ? [{ page: blank, delivery: 'one each' as const }] : spec.originals;
  const oddities: Oddity[] = [];
  const copies = classes.flatMap((klass) =>
    originals.flatMap((original) =>
      copiesFor(original, klass, audience.get(klass.id) ?? [], spec, oddities),
    ),
  );
  return { copies, originals, audience, twice, oddities };
}

/** Who gets what, and what to say of it before it happens. The hand-out itself makes the same `copies`. */
export function planHandOut(spec: HandOutSpec, situation: Situation): HandOutPlan {
  const { copies, originals, audience, twice, oddities } = plannedCopies(
    spec,
    situation.classes,
    situation.blank,
  );
  const due = new Map<string, number | null>();
  for (const klass of situation.classes) {
    const students = audience.get(klass.id) ?? [];
    const wanted = spec.classes.find((one) => one.class === klass.id)?.due ?? spec.due;
    const at = dueIn(wanted, klass, situation);
    if (at === undefined && wanted.kind === 'lesson')
      oddities.push({ kind: 'no such lesson', class: klass.name, nth: wanted.nth });
    due.set(klass.id, at ?? null);
    if (students.length === 0) oddities.push({ kind: 'nobody gets it', class: klass.name });
    if (wanted.kind === 'at') oddities.push(...clockOddities(wanted.local, at, situation));
    if (!klass.open) oddities.push({ kind: 'closed class', class: klass.name });
    oddities.push(...dueOddities(at ?? null, klass, situation));
  }
  oddities.push(...goingOutOddities(situation));
  for (const { name, classes } of twice)
    oddities.push({ kind: 'in several classes', name, classes });
  const all = new Set([...audience.values()].flat().map(({ id }) => id));
  for (const { page: id, instead, students } of spec.adapted) {
    const away = students.filter((student) => !all.has(student)).length;
    const page = situation.pages.get(id)?.title ?? 'The adapted page';
    if (away > 0) oddities.push({ kind: 'adapted for others', page, students: away });
    if (!originals.some((one) => one.page === instead))
      oddities.push({ kind: 'adapts nothing', page });
  }
  for (const { page, delivery } of originals) {
    const known = situation.pages.get(page);
    if (spec.form === 'pages' && delivery !== 'to read' && spec.guarded && known?.parts === 0)
      oddities.push({ kind: 'nowhere to write', page: known.title });
  }
  for (const { page } of [
    ...originals.filter(({ delivery }) => delivery !== 'to read'),
    ...spec.adapted,
  ]) {
    const known = situation.pages.get(page);
    if (spec.form === 'pages' && spec.marking !== 'by hand' && known?.keys === 0)
      oddities.push({ kind: 'no answer keys', page: known.title });
  }
  return {
    due,
    copies,
    facts: factsOf(spec, situation, copies, due),
    oddities: onlyOnce(oddities),
  };
}

/** Classes may share an oddity. */
const onlyOnce = (oddities: readonly Oddity[]) => [
  ...new Map(oddities.map((one) => [JSON.stringify(one), one])).values(),
];

function copiesFor(
  { page, delivery }: { page: string; delivery: Delivery },
  klass: Receivers,
  students: readonly { id: string; name: string }[],
  spec: HandOutSpec,
  oddities: Oddity[],
): PlannedCopy[] {
  const adapted = new Map<string, string>();
  for (const one of spec.adapted)
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
      oddities.push({ kind: 'empty group', group: name, class: klass.name });
  const grouped = new Set(groups.flatMap(({ members }) => members));
  const lone = students.filter(({ id }) => others.includes(id) && !grouped.has(id));
  if (klass.groups.length === 0 && others.length > 0)
    oddities.push({ kind: 'no groups', class: klass.name });
  else for (const { name } of lone) oddities.push({ kind: 'in no group', name, class: klass.name });
  return [
    ...own,
    ...groups
      .filter(({ members }) => members.length > 0)
      .map(({ name, members }) => shared(name, members)),
    ...lone.map(({ id }) => alone(id, 'one each')),
  ];
}

function clockOddities(
  local: string,
  at: number | null | undefined,
  { timeZone }: Situation,
): Oddity[] {
  if (at === null || at === undefined) return [];
  const odd = oddTime(local, timeZone);
  if (odd === 'twice') return [{ kind: 'due time comes twice', at }];
  return odd ? [{ kind: 'due time is skipped', local, at }] : [];
}

/** Nobody waits for anything before 6 o'clock, or from 22 on. */
const isNight = (clock: string) => clock < '06:00' || clock >= '22:00';

function goingOutOddities({ now, goesOut, timeZone, classes }: Situation): Oddity[] {
  if (goesOut <= now) return [];
  const [day, clock = ''] = writeLocalTime(goesOut, timeZone).split('T');
  return [
    ...(isNight(clock) ? [{ kind: 'goes out at night' as const, at: goesOut }] : []),
    ...classes
      .filter(({ timetable }) => isHoliday(timetable, day ?? ''))
      .map(({ name }) => ({ kind: 'goes out in holidays' as const, class: name })),
  ];
}

function dueOddities(
  due: number | null,
  { name, timetable }: ClassFacts,
  { now, goesOut, timeZone }: Situation,
): Oddity[] {
  if (due === null) return [];
  if (due <= now) return [{ kind: 'due in the past' }];
  if (due <= goesOut) return [{ kind: 'due before it goes out', class: name }];
  if (due >= endOfDay(timetable.term.ends, timeZone))
    return [{ kind: 'due after the term', class: name, at: due }];
  if (writeLocalTime(due, timeZone).endsWith('T00:00')) return [{ kind: 'due at midnight' }];
  const lessons = lessonsOn(timetable, dayOf(due, timeZone));
  if (isHoliday(timetable, dayOf(due, timeZone)))
    return [{ kind: 'due in holidays', class: name, at: due }];
  if (lessons.length === 0) return [{ kind: 'due on a day without lesson', class: name, at: due }];
  return lessons.some(({ starts, ends }) => due >= starts && due <= ends)
    ? []
    : [{ kind: 'due outside a lesson', class: name, at: due }];
}

function factsOf(
  spec: HandOutSpec,
  situation: Situation,
  copies: readonly PlannedCopy[],
  due: ReadonlyMap<string, number | null>,
): PlanFact[] {
  const classes = situation.classes.map(({ name }) => name);
  const facts: PlanFact[] = [];
  if (copies.length === 0) facts.push({ kind: 'nobody', classes });
  else if (spec.form === 'done or not')
    facts.push({ kind: 'done or not', students: copies.length });
  else
    for (const original of spec.originals)
      facts.push(...deliveryFacts(original, spec.originals.length > 1, situation, copies));
  const times = new Map<number | null, string[]>();
  for (const { id, name } of situation.classes) {
    const at = due.get(id) ?? null;
    times.set(at, [...(times.get(at) ?? []), name]);
  }
  if (situation.goesOut > situation.now) facts.push({ kind: 'goes out', at: situation.goesOut });
  facts.push({ kind: 'due', times: [...times].map(([at, of]) => ({ at, classes: of })) });
  const writable = spec.originals.filter(({ delivery }) => delivery !== 'to read');
  const places = writable.reduce(
    (sum, { page }) => sum + (situation.pages.get(page)?.parts ?? 0),
    0,
  );
  if (spec.form === 'pages' && writable.length > 0)
    facts.push(spec.guarded ? { kind: 'guarded', places } : { kind: 'not guarded' });
  if (spec.points !== null) facts.push({ kind: 'points', points: spec.points });
  const keys = writable.reduce((sum, { page }) => sum + (situation.pages.get(page)?.keys ?? 0), 0);
  if (spec.marking !== 'by hand' && keys > 0) {
    const back = spec.marking === 'by key, handed back';
    facts.push({ kind: 'marks itself', keys, parts: places, back });
  }
  if (spec.handIn === 'each' && isSharedByClass(spec)) facts.push({ kind: 'each says done' });
  if (spec.late === 'not taken') facts.push({ kind: 'not taken late' });
  return facts;
}

/** What one page of several, or the only one, comes to. */
function deliveryFacts(
  { page: original, delivery }: { page: string; delivery: Delivery },
  oneOfSeveral: boolean,
  { classes, pages }: Situation,
  all: readonly PlannedCopy[],
): PlanFact[] {
  const page = oneOfSeveral ? (pages.get(original)?.title ?? '') : null;
  const names = classes.map(({ name }) => name);
  const copies = all.filter((copy) => copy.for === original);
  const own = copies.filter(({ student }) => student !== null);
  const shared = copies.filter(({ student }) => student === null);
  const adapted = own.filter(({ source }) => source !== original).length;
  const plain = own.length - adapted;
  const students = shared.reduce((sum, { members }) => sum + members.length, 0);
  const apart: PlanFact[] = adapted > 0 ? [{ kind: 'adapted copies', students: adapted }] : [];
  switch (delivery) {
    case 'one each':
      return own.length > 0
        ? [{ kind: 'own copies', page, copies: own.length, adapted, classes: names }]
        : [];
    case 'to read':
      return [...(students > 0 ? [{ kind: 'read' as const, page, students }] : []), ...apart];
    case 'one for all':
      return [
        ...shared.map(({ class: id, members }): PlanFact => {
          const name = classes.find((klass) => klass.id === id)?.name ?? '';
          return { kind: 'shared by class', page, class: name, students: members.length };
        }),
        ...apart,
      ];
    case 'one per group':
      return [
        ...(shared.length > 0
          ? [
              {
                kind: 'shared by groups' as const,
                page,
                pages: shared.length,
                classes: names,
                students,
              },
            ]
          : []),
        ...(plain > 0 ? [{ kind: 'alone' as const, page, students: plain }] : []),
        ...apart,
      ];
  }
}
