import { allowPerson } from '$server/access/allow';
import { readBrought } from '$server/archive/open-archive';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'manage courses',
  async ({ depends }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:brought');
    return { trail: [{ title: 'Open an archive' }], brought: await readBrought(app.db, grant) };
  },
);
