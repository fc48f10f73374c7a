import { dueFault, type HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { findClass, findCourse } from '../access/relation';
import { may } from '../access/table';
import type { Using } from '../services';
import { Refusal } from '../page/refusal';

async function checkClass(app: Using<'db'>, person: string, klass: string) {
  const found = await findClass(app.db, person, klass);
  if (!found || !may('hand out', found.relation))
    throw new Refusal(403, 'You do not hand out in one of these classes.');
  return found.thing;
}

/** A spec that somebody may have: nothing is handed out or changed by any other. */
export class CheckedSpec {
  /** Never there: nothing that only looks like one is taken for it. */
  declare protected readonly checked: true;

  private constructor(
    readonly spec: HandOutSpec,
    readonly by: string,
  ) {}

  /**
   * Whether somebody may hand this out: in each of the classes, each of the pages, with that rubric.
   * @throws Refusal with the first thing that they may not
   */
  static async check(
    app: Using<'db' | 'findPage'>,
    person: string,
    spec: HandOutSpec,
  ): Promise<CheckedSpec> {
    await checkSpec(app, person, spec);
    return new CheckedSpec(spec, person);
  }

  /** What an assignment stood for before, in the classes that the grant is for. */
  static stoodBefore(grant: Grant<'change the assignment'>, spec: HandOutSpec): CheckedSpec {
    const isKnown = spec.classes.every((one) => grant.thing.classes.includes(one.class));
    if (!isKnown) throw new Refusal(409, 'One of its classes is not there any more.');
    return new CheckedSpec(spec, grant.person.id);
  }
}

async function checkSpec(
  app: Using<'db' | 'findPage'>,
  person: string,
  spec: HandOutSpec,
): Promise<void> {
  const fault = dueFault(spec);
  if (fault) throw new Refusal(400, fault);
  for (const one of spec.classes) {
    const { name } = await checkClass(app, person, one.class);
    const units = one.unit ? [{ id: one.unit, table: 'unit' as const, what: 'unit' }] : [];
    const groupings = one.grouping
      ? [{ id: one.grouping, table: 'grouping' as const, what: 'grouping' }]
      : [];
    for (const { id, table, what } of [...units, ...groupings]) {
      const row = await app.db
        .selectFrom(table)
        .select('id')
        .where('id', '=', id)
        .where('class_id', '=', one.class)
        .executeTakeFirst();
      if (!row) throw new Refusal(400, `This ${what} is not one of ${name}.`);
    }
  }
  if (new Set(spec.classes.map((one) => one.class)).size < spec.classes.length)
    throw new Refusal(400, 'A class stands there twice.');
  if (spec.form === 'pages' && spec.originals.length === 0)
    throw new Refusal(400, 'Choose a page to hand out, or make it “done or not”.');
  for (const { page } of [...spec.originals, ...spec.adapted]) {
    const found = await app.findPage(person, page);
    const isMaterial = found && ['original', 'reading', 'class page'].includes(found.thing.kind);
    if (!isMaterial || !may('use the page', found.relation))
      throw new Refusal(404, 'One of these pages is gone, or it is not yours to hand out.');
  }
  if (spec.rubric) {
    const rubric = await app.db
      .selectFrom('rubric')
      .select('course_id')
      .where('id', '=', spec.rubric)
      .executeTakeFirst();
    const found = rubric && (await findCourse(app.db, person, rubric.course_id));
    if (!found || !may('see the course', found.relation))
      throw new Refusal(404, 'This rubric is gone, or it is not yours to use.');
  }
}
