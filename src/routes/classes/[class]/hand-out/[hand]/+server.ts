import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { readLocalTime } from '$core/calendar/local-time';
import { HandOutSpec } from '$core/handout/spec';
import { allowInClass } from '$server/access/allow';
import { dropDraft, handOutFrom, saveDraft, type KnownHandOut } from '$server/handout/drafts';
import { readJson } from '$server/http/body';
import { Refusal } from '$server/page/refusal';

const readId = (params: Partial<Record<string, string>>) => {
  const read = z.uuid().safeParse(params.hand);
  if (!read.success) throw new Refusal(404, 'There is no such hand-out.');
  return read.data;
};

const Now = z.object({ spec: HandOutSpec, again: z.boolean().default(false) });

/** Hands out now. The id is the browser's own mark: sent twice, it is handed out once. */
export const POST = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const id = readId(params);
    const { spec, again } = await readJson(request, Now);
    const done = await handOutFrom(app, grant, { id, spec, again, at: new Date() });
    return 'known' in done ? refuseKnown(done.known) : json(done);
  },
);

const Draft = z.object({
  spec: HandOutSpec,
  /** On the school's clock; null for a draft that somebody finishes. */
  goesOut: z.string().nullable(),
  version: z.number().int().min(0).default(0),
  again: z.boolean().default(false),
});

const refuseKnown = (known: KnownHandOut) =>
  json({ message: 'They have this already, or will.', known }, { status: 409 });

/** Keeps it as a draft, or plans it for a time. */
export const PUT = allowInClass(
  'hand out',
  async ({ request, params }: RequestEvent, { app, grant }) => {
    const { spec, goesOut, version, again } = await readJson(request, Draft);
    const at = goesOut === null ? null : readLocalTime(goesOut, grant.thing.time_zone);
    if (goesOut !== null && at === null)
      throw new Refusal(400, 'The time at which it goes out is not a date and time.');
    const draft = {
      id: readId(params),
      spec,
      version,
      asks: !again,
      goesOut: at === null ? null : new Date(at),
    };
    const kept = await saveDraft(app, grant, draft, new Date());
    if ('known' in kept) return refuseKnown(kept.known);
    if ('theirs' in kept)
      return json({ message: 'Somebody saved this meanwhile.', ...kept }, { status: 409 });
    return json({ goesOut: at, ...kept });
  },
);

export const DELETE = allowInClass('hand out', async ({ params }: RequestEvent, { app, grant }) => {
  await dropDraft(app.db, grant, readId(params));
  return json({});
});
