import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/lessons';
import { HandOutWish } from '$core/handout/wish';
import { allowInClass } from '$server/access/allow';
import { dropDraft, keepDraft, markOut } from '$server/handout/drafts';
import { handOut } from '$server/handout/hand-out';
import { CheckedWish } from '$server/handout/rights';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

const readId = (params: Partial<Record<string, string>>) => {
  const read = z.uuid().safeParse(params.hand);
  if (!read.success) throw new Refusal(404, 'There is no such hand-out.');
  return read.data;
};

/** Hands out now. The id is the browser's own mark: sent twice, it is handed out once. */
export const POST = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, person, thing }) => {
    const id = readId(params);
    const { wish } = await readJson(request, z.object({ wish: HandOutWish }));
    if (!wish.classes.some((one) => one.class === thing.id))
      throw new Refusal(400, `${thing.name} is not among the classes.`);
    const checked = await CheckedWish.check(app, person.id, wish);
    const at = new Date();
    const { copies, sentences } = await handOut(app, checked, { id, at });
    await markOut(app.db, { id, class: thing.id }, at);
    return json({ copies: copies.length, sentences });
  },
);

const Draft = z.object({
  wish: HandOutWish,
  /** On the school's clock; null for a draft that somebody finishes. */
  goesOut: z.string().nullable(),
  version: z.number().int().min(0).default(0),
});

/** Keeps it as a draft, or plans it for a time. */
export const PUT = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, person, thing }) => {
    const { wish, goesOut, version } = await readJson(request, Draft);
    await CheckedWish.check(app, person.id, wish);
    const at = goesOut === null ? null : readLocalTime(goesOut, thing.time_zone);
    if (goesOut !== null && at === null)
      throw new Refusal(400, 'The time at which it goes out is not a date and time.');
    const draft = {
      id: readId(params),
      wish,
      goesOut: at === null ? null : new Date(at),
      ...{ by: person.id, version },
    };
    const kept = await keepDraft(app, thing, draft, new Date());
    if ('theirs' in kept)
      return json({ message: 'Somebody saved this meanwhile.', ...kept }, { status: 409 });
    return json({ goesOut: at, ...kept });
  },
);

export const DELETE = allowInClass('hand out', async ({ params }: RequestEvent, { app, thing }) => {
  await dropDraft(app.db, thing.id, readId(params));
  return json({});
});
