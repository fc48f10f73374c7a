import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime, writeLocalTime } from '$core/calendar/lessons';
import { readPoints } from '$core/marking/points';
import { allowInClass } from '$server/access/allow';
import type { FoundPage } from '$server/access/relation';
import { may } from '$server/access/table';
import { readStudents } from '$server/class/board';
import { readUnits } from '$server/course/units';
import { readLessons } from '$server/class/lessons';
import { handOut } from '$server/handout/hand-out';
import { readPageNotes } from '$server/course/notes';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

/** The next lessons that the due time is proposed from. */
const LESSONS = 8;

const isForHandingOut = ({ relation, thing }: FoundPage) =>
  may('use the page', relation) && thing.kind === 'original';

export const load = allowInClass(
  'hand out',
  async ({ url, params }: PageServerLoadEvent, { app, person, thing }) => {
    const found = await app.findPage(person.id, url.searchParams.get('original') ?? '');
    if (!found || !isForHandingOut(found)) redirect(303, `/courses?class=${params.class}`);
    const held = await app.pages.open(found.thing.id);
    const now = Date.now();
    const lessons = await readLessons(app.db, thing, now, LESSONS);
    const zone = thing.time_zone;
    return {
      trail: [
        { title: `${thing.name} ${thing.title}`, to: `/classes/${thing.id}` },
        { title: 'Hand out' },
      ],
      klass: thing,
      original: {
        ...{ id: found.thing.id, title: found.thing.title, version: held.version },
        doc: held.doc.toJSON() as object,
      },
      notes: await readPageNotes(app.db, found.thing.id),
      students: await readStudents(app.db, thing.id),
      units: await readUnits(app.db, { class: thing.id }),
      lessons: lessons.map((lesson) => ({ ...lesson, local: writeLocalTime(lesson.ends, zone) })),
      now,
      // The mark of this hand-out: the same form sent twice makes one assignment.
      id: crypto.randomUUID(),
    };
  },
);

const Wish = z.object({
  id: z.uuid(),
  original: z.uuid(),
  title: z
    .string()
    .trim()
    .min(1, 'The assignment needs a title.')
    .max(300, 'A title has at most 300 signs.'),
  instructions: z.string().trim().max(5000, 'Please say it in fewer than 5000 signs.').default(''),
  unit: z.union([z.uuid(), z.literal('')]).default(''),
  due: z.string().default(''),
  points: z.string().trim().default(''),
  guarded: z.literal('on').optional(),
});

export const actions = {
  default: allowInClass('hand out', async ({ request }: RequestEvent, { app, person, thing }) => {
    const given = Object.fromEntries(await request.formData());
    const read = Wish.safeParse(given);
    const no = (sentence: string) => fail(400, { sentence });
    if (!read.success) return no(read.error.issues.map((issue) => issue.message).join(' '));
    const wish = read.data;
    const found = await app.findPage(person.id, wish.original);
    if (!found || !isForHandingOut(found)) error(404, 'There is no such original here.');
    const points = wish.points === '' ? null : readPoints(wish.points);
    if (wish.points !== '' && points === null)
      return no('Points are a number such as 10 or 7½, or nothing.');
    const due = wish.due === '' ? null : readLocalTime(wish.due, thing.time_zone);
    if (wish.due !== '' && due === null) return no('The due time is not a date and time.');
    const units = await readUnits(app.db, { class: thing.id });
    if (wish.unit && !units.some(({ id }) => id === wish.unit))
      return no('This unit is not one of the class.');
    try {
      await handOut(app, {
        ...{ id: wish.id, original: wish.original, class: thing.id, unit: wish.unit || null },
        ...{
          title: wish.title,
          instructions: wish.instructions,
          points,
          guarded: wish.guarded === 'on',
        },
        ...{ due: due === null ? null : new Date(due), by: person.id, at: new Date() },
      });
    } catch (thrown) {
      if (thrown instanceof Refusal) return fail(thrown.status, { sentence: thrown.message });
      throw thrown;
    }
    redirect(303, `/classes/${thing.id}`);
  }),
};
