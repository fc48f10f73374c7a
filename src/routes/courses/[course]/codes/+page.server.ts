import { z } from 'zod';
import { allowInCourse } from '$server/access/allow';
import { saveCodes } from '$server/course/codes';
import { viewCodes } from '$server/course/view-course';
import { readForm, formAction } from '$server/http/form';
import { Refusal } from '$server/page/refusal';
import type { PageServerLoadEvent, RequestEvent } from './$types';

export const load = allowInCourse(
  'see the course',
  async (_event: PageServerLoadEvent, { app, grant }) => ({
    trail: [
      { title: 'Courses', to: '/courses' },
      { title: grant.thing.title, to: `/courses/${grant.thing.id}` },
      { title: 'Codes' },
    ],
    ...(await viewCodes(app.db, grant)),
  }),
);

const MOST_BYTES = 20_000_000;

export const actions = {
  read: allowInCourse(
    'write the course',
    formAction(async ({ request }: RequestEvent, { app, grant }) => {
      const { list } = await readForm(
        request,
        z.object({ list: z.instanceof(File, { message: 'Choose a list first.' }) }),
      );
      if (list.size > MOST_BYTES) throw new Refusal(413, 'This list is larger than 20 MB.');
      const read = await app.threads.run({
        kind: 'codes',
        name: list.name,
        bytes: new Uint8Array(await list.arrayBuffer()),
      });
      await saveCodes(app.db, grant, read);
      return { kept: read.codes.length, passed: read.passed.slice(0, 20) };
    }),
  ),
};
