import { proposeDue, USUAL_REMINDER } from '$core/calendar/propose-due';
import { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { may } from '../access/table';
import type { Using } from '../services';
import { readPageNotes } from '../course/notes';
import { readDrafts, readLastSpec, readTemplates } from './drafts';
import { readHandedOutPages, readWorld } from './materials';
import { viewAssignment } from './view-assignment';

/** What the address of a hand-out may say that it begins with. */
export interface Asked {
  draft: string | null;
  original: string | null;
  form: 'pages' | 'done or not';
  /** Other classes that get it, too. */
  also: readonly string[];
}

/** The unit of a class that work from a unit of a course goes to; the first, where none came from there. */
const unitFor = (
  units: readonly { id: string; from: string | null }[],
  unit: string | null | undefined,
): string | null =>
  (units.find(({ from }) => from !== null && from === unit) ?? units[0])?.id ?? null;

/** What is handed out from a class, as it begins or as a draft has it, with all there is to choose from. */
export async function viewHandOut(
  app: Using<'db' | 'findPage' | 'memory'>,
  { thing: klass, person }: Grant<'hand out'>,
  asked: Asked,
) {
  const now = Date.now();
  const [world, drafts, templates, last] = await Promise.all([
    readWorld(app, person, klass, now),
    readDrafts(app.db, [klass.id]),
    readTemplates(app.db, person.id),
    readLastSpec(app.db, person.id),
  ]);
  const draft = drafts.find(({ id }) => id === asked.draft) ?? null;
  const found = asked.original ? await app.findPage(person.id, asked.original) : null;
  const original =
    found && may('use the page', found.relation) && found.thing.kind !== 'copy'
      ? found.thing
      : null;
  const { form } = asked;
  const here = world.classes.find(({ id }) => id === klass.id);
  const others = world.classes.filter(({ id }) => id !== klass.id && asked.also.includes(id));
  const unit = world.materials.find(({ id }) => id === original?.id)?.unit;
  const classes = [...(here ? [here] : []), ...others];
  const begin = HandOutSpec.parse({
    title: original?.title ?? (form === 'pages' ? 'Untitled' : 'Bring your boots'),
    form,
    originals: original
      ? [{ page: original.id, delivery: original.kind === 'reading' ? 'to read' : 'one each' }]
      : [],
    classes: classes.map(({ id, units, groupings }) => ({
      class: id,
      grouping: groupings[0]?.id ?? null,
      unit: unitFor(
        units.filter(({ stored }) => !stored),
        unit,
      ),
    })),
    due: proposeDue(
      classes.map(({ facts }) => facts.timetable),
      now,
    ),
    reminder: USUAL_REMINDER,
  });
  const spec = draft?.spec ?? begin;
  return {
    klass,
    world,
    spec,
    goesOut: draft?.goesOut ?? null,
    version: draft?.version ?? 0,
    fault: draft?.fault ?? null,
    /** Whether there is something to fill in, or first a choice to make. */
    begun: draft !== null || original !== null || form === 'done or not',
    drafts,
    handedOut: await readHandedOutPages(app, klass.id),
    templates,
    last,
    notes: await readPageNotes(
      app.db,
      spec.originals.map(({ page }) => page),
      person.id,
    ),
    // The mark of this hand-out: sent twice, it makes one assignment.
    id: draft?.id ?? crypto.randomUUID(),
  };
}

/** An assignment as it is, with all there is to choose from instead. */
export async function viewChange(
  app: Using<'db' | 'memory'>,
  grant: Grant<'change the assignment'>,
) {
  const now = Date.now();
  const { class: klass } = grant.thing;
  return {
    klass,
    assignment: await viewAssignment(app, grant, now),
    world: await readWorld(app, grant.person, klass, now),
  };
}
