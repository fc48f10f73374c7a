import { Node } from 'prosemirror-model';
import type { Timetable } from '$core/calendar/lessons';
import { readLocalTime, writeLocalTime } from '$core/calendar/local-time';
import { planHandOut, type ClassFacts, type HandOutPlan, type Situation } from '$core/handout/plan';
import type { Delivery, HandOutSpec } from '$core/handout/spec';
import { readPoints, writePoints } from '$core/marking/points';
import { partsOf } from '$core/page/parts';
import { schema } from '$core/page/schema';

/** A class in which somebody may hand out. */
export interface FormClass {
  id: string;
  name: string;
  title: string;
  facts: ClassFacts;
  groupings: { id: string; name: string; groups: { name: string; members: string[] }[] }[];
  /** `from`: the unit of the course that it is a copy of. */
  units: { id: string; title: string; from: string | null }[];
}

/** What somebody chooses from when they hand out. */
export interface FormWorld {
  classes: FormClass[];
  materials: {
    /** How many of its parts have an answer key. */
    keys: number;
    id: string;
    title: string;
    kind: string;
    course: string;
    courseId: string | null;
    unit: string | null;
    adapts: string | null;
    /** Whether it can be chosen; others are named where they stand already. */
    offered: boolean;
  }[];
  rubrics: { id: string; title: string; points: number }[];
  categories: string[];
  timeZone: string;
  now: number;
}

const BLANK = 'blank';

/** A hand-out as it is being filled in, and the plan that it comes to. */
export class HandOutForm {
  spec: HandOutSpec = $state({} as HandOutSpec);
  /** As they are typed. */
  points = $state('');
  /** On the school's clock; empty for at once. */
  goesOut = $state('');
  /** The pages that were read so far. */
  docs: Record<string, { doc: object; parts: number }> = $state({});
  trouble = $state('');

  constructor(
    readonly world: FormWorld,
    spec: HandOutSpec,
    goesOut: number | null = null,
  ) {
    this.spec = structuredClone(spec);
    this.points = spec.points === null ? '' : writePoints(spec.points);
    this.goesOut = goesOut === null ? '' : writeLocalTime(goesOut, world.timeZone);
  }

  get classes(): FormClass[] {
    return this.spec.classes.flatMap(
      (one) => this.world.classes.find(({ id }) => id === one.class) ?? [],
    );
  }

  /** When the chosen classes have lessons. */
  get timetables(): Timetable[] {
    return this.classes.map(({ facts }) => facts.timetable);
  }

  /** The students of the chosen classes. */
  get students(): { id: string; name: string; klass: string }[] {
    return this.classes.flatMap(({ name: klass, facts }) =>
      facts.students.map((student) => ({ ...student, klass })),
    );
  }

  get situation(): Situation {
    const { now, timeZone } = this.world;
    const goesOut = this.goesOut ? (readLocalTime(this.goesOut, timeZone) ?? now) : now;
    // eslint-disable-next-line svelte/prefer-svelte-reactivity -- made anew whenever it is asked for
    const pages = new Map(
      [...this.spec.originals, ...this.spec.adapted].map(({ page }) => {
        const known = this.world.materials.find(({ id }) => id === page);
        const { title = 'A page', keys = 0 } = known ?? {};
        return [page, { title, parts: this.docs[page]?.parts ?? 0, keys }];
      }),
    );
    const classes = this.classes.map(({ facts, groupings }, index) => {
      const chosen = this.spec.classes[index]?.grouping;
      const groups = groupings.find(({ id }) => id === chosen)?.groups ?? [];
      return { ...facts, groups };
    });
    return { now, goesOut, timeZone, classes, pages, blank: BLANK };
  }

  /** The spec with the points as they are typed; those that cannot be read count as none, and are said. */
  get whole(): HandOutSpec {
    return { ...$state.snapshot(this.spec), points: this.readPoints } as HandOutSpec;
  }
  get readPoints(): string | null {
    return this.points.trim() === '' ? null : readPoints(this.points);
  }
  /** What keeps it from being handed out; empty for nothing. */
  get fault(): string {
    if (this.spec.title.trim() === '') return 'The assignment needs a title.';
    if (this.points.trim() !== '' && this.readPoints === null)
      return 'Points are a number such as 10 or 7½, or nothing.';
    if (this.spec.classes.length === 0) return 'Choose a class.';
    if (this.spec.form === 'pages' && this.spec.originals.length === 0)
      return 'Choose a page to hand out.';
    return '';
  }

  get plan(): HandOutPlan {
    return planHandOut(this.whole, this.situation);
  }

  /** Reads a page that is shown or counted, once. */
  async read(page: string): Promise<void> {
    if (this.docs[page] || page === BLANK) return;
    const answer = await fetch(`/pages/${page}`).catch(() => null);
    const read = await answer?.json().catch(() => null);
    if (answer?.ok)
      this.docs[page] = { doc: read.doc, parts: partsOf(Node.fromJSON(schema, read.doc)).length };
    else this.trouble = read?.message ?? 'The server does not answer, so a page cannot be shown.';
  }

  /** One page more: a reading to read, anything else one each, until something else is said. */
  addPage(page: string): void {
    if (this.spec.originals.some((one) => one.page === page)) return;
    const kind = this.world.materials.find(({ id }) => id === page)?.kind;
    this.spec.originals.push({ page, delivery: kind === 'reading' ? 'to read' : 'one each' });
  }
  /** By group, a class goes by its first grouping until another is chosen. */
  deliver(page: string, delivery: Delivery): void {
    for (const one of this.spec.originals) if (one.page === page) one.delivery = delivery;
    if (delivery !== 'one per group') return;
    for (const [index, one] of this.spec.classes.entries())
      one.grouping ??= this.classes[index]?.groupings[0]?.id ?? null;
  }
  dropPage(page: string): void {
    this.spec.originals = this.spec.originals.filter((one) => one.page !== page);
    this.spec.adapted = this.spec.adapted.filter(({ instead }) => instead !== page);
  }

  /** One class more or less; it begins with its first unit and grouping. */
  toggleClass(id: string): void {
    if (this.spec.classes.some((one) => one.class === id)) {
      this.spec.classes = this.spec.classes.filter((one) => one.class !== id);
      return;
    }
    const klass = this.world.classes.find((one) => one.id === id);
    const first = this.spec.classes[0];
    const named = this.classes[0]?.units.find((unit) => unit.id === first?.unit)?.title;
    this.spec.classes.push({
      class: id,
      grouping: klass?.groupings[0]?.id ?? null,
      due: null,
      unit: klass?.units.find(({ title }) => title === named)?.id ?? null,
    });
  }

  leaveOut(student: string, out: boolean): void {
    this.spec.without = this.spec.without.filter((id) => id !== student);
    if (out) this.spec.without.push(student);
  }
  adapt(student: string, page: string | null): void {
    for (const one of this.spec.adapted) one.students = one.students.filter((id) => id !== student);
    const instead = this.world.materials.find(({ id }) => id === page)?.adapts;
    const there = this.spec.adapted.find((one) => one.page === page);
    if (there) there.students.push(student);
    else if (page && instead) this.spec.adapted.push({ page, instead, students: [student] });
    this.spec.adapted = this.spec.adapted.filter(({ students }) => students.length > 0);
  }
}
