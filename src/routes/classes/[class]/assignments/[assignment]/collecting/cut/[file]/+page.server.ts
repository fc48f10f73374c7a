import { error } from '@sveltejs/kit';
import { allowOnAssignment } from '$server/access/allow';
import { viewCollecting } from '$server/collecting/view-collecting';
import type { PageServerLoadEvent } from './$types';

/** A stack of sheets, to be cut to students. */
export const load = allowOnAssignment(
  'run the assignment',
  async ({ params }: PageServerLoadEvent, { app, grant }) => {
    const { trail, at, klass, title, students, files } = await viewCollecting(app, grant);
    const file = files.find(({ id }) => id === params.file);
    if (file?.type !== 'application/pdf') error(404, 'There is no such stack of sheets here.');
    return {
      trail: [...trail, { title: 'Collecting', to: at }, { title: file.path }],
      at,
      klass,
      title,
      assignment: grant.thing.id,
      students,
      file,
    };
  },
);
