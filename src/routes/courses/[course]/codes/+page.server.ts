import { z } from 'zod';
import { allowInCourse } from '$server/access/allow';
import { putListAway, saveCodes } from '$server/course/code-lists';
import { viewCodes } from '$server/course/view-course';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async ({ url }: PageServerLoadEvent, { app, grant }) => ({
    /** The code that somebody looks for. */
    asked: url.searchParams.get('code'),
    trail: [
      { title: 'Courses', to: '/courses' },
      { title: grant.thing.title, to: `/courses/${grant.thing.id}` },
      { title: 'Codes' },
    ],
    ...(await viewCodes(app.db, grant)),
  }),
);

const MOST_BYTES = 20_000_000;
const MOST_SAID = 20;

const sayFirst = (passed: readonly string[]) =>
  passed.length > MOST_SAID
    ? [...passed.slice(0, MOST_SAID), `and ${passed.length - MOST_SAID} more`]
    : passed;

export const actions = {
  read: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { list, how } = await readForm(
        request,
        z.object({
          list: z.instanceof(File, { message: 'Choose a list first.' }),
          how: z.enum(['ask', 'update', 'another']).default('ask'),
        }),
      );
      if (list.size > MOST_BYTES) throw new Refusal(413, 'This list is larger than 20 MB.');
      const read = await app.threads.run({
        kind: 'codes',
        name: list.name,
        bytes: new Uint8Array(await list.arrayBuffer()),
      });
      const same = await saveCodes(app.db, grant, read, how);
      if (same) return { same };
      return { kept: read.codes.length, passed: sayFirst(read.passed) };
    }),
  ),
  away: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const spec = await readForm(request, z.object({ list: z.uuid(), away: z.stringbool() }));
      await putListAway(app.db, grant, spec.list, spec.away);
    }),
  ),
};
