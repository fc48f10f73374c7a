import { HandOutWish } from '$core/handout/wish';
import { writeLocalTime } from '$core/calendar/lessons';
import { allowInClass } from '$server/access/allow';
import { may } from '$server/access/table';
import { readPageNotes } from '$server/course/notes';
import { readDrafts, readLastWish, readTemplates } from '$server/handout/drafts';
import { readHandedOutPages, readWorld } from '$server/handout/materials';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'hand out',
  async ({ url }: PageServerLoadEvent, { app, person, thing }) => {
    const now = Date.now();
    const [world, drafts, templates, last] = await Promise.all([
      readWorld(app, person, thing.time_zone, now),
      readDrafts(app.db, thing.id),
      readTemplates(app.db, person.id),
      readLastWish(app.db, person.id),
    ]);
    const draft = drafts.find(({ id }) => id === url.searchParams.get('draft')) ?? null;
    const asked = url.searchParams.get('original') ?? '';
    const found = asked ? await app.findPage(person.id, asked) : null;
    const original =
      found && may('use the page', found.relation) && found.thing.kind !== 'copy'
        ? found.thing
        : null;
    const form = url.searchParams.get('form') === 'done or not' ? 'done or not' : 'pages';
    const also = (url.searchParams.get('also') ?? '').split(',');
    const klass = world.classes.find(({ id }) => id === thing.id);
    const others = world.classes.filter(({ id }) => id !== thing.id && also.includes(id));
    const unit = world.materials.find(({ id }) => id === original?.id)?.unit;
    const due = klass?.facts.lessons[1] ?? klass?.facts.lessons[0];
    const begin = HandOutWish.parse({
      title: original?.title ?? (form === 'pages' ? 'Untitled' : 'Bring your boots'),
      form,
      originals: original
        ? [{ page: original.id, delivery: original.kind === 'reading' ? 'to read' : 'one each' }]
        : [],
      classes: [...(klass ? [klass] : []), ...others].map(({ id, units, groupings }) => ({
        ...{ class: id, grouping: groupings[0]?.id ?? null },
        unit: (units.find(({ from }) => from !== null && from === unit) ?? units[0])?.id ?? null,
      })),
      due: !due
        ? { kind: 'none' }
        : others.length > 0
          ? { kind: 'lesson', nth: 2 }
          : { kind: 'at', local: writeLocalTime(due.ends, thing.time_zone) },
      reminder: 1080,
    });
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: 'Hand out' },
      ],
      klass: thing,
      world,
      wish: draft?.wish ?? begin,
      goesOut: draft?.goesOut ?? null,
      version: draft?.version ?? 0,
      fault: draft?.fault ?? null,
      /** Whether there is something to fill in, or first a choice to make. */
      begun: draft !== null || original !== null || form === 'done or not',
      drafts,
      handedOut: await readHandedOutPages(app, thing.id),
      templates,
      last,
      notes: original ? await readPageNotes(app.db, original.id, person.id) : [],
      // The mark of this hand-out: sent twice, it makes one assignment.
      id: draft?.id ?? crypto.randomUUID(),
    };
  },
);
