import { allowPerson } from '$server/access/allow';
import { viewTermCount } from '$server/headcount/term';
import type { PageServerLoadEvent } from './$types';

export const load = allowPerson(
  'see own desk',
  async ({ depends, url }: PageServerLoadEvent, { app, grant }) => {
    depends('uncia:headcount');
    return {
      title: 'Headcount',
      trail: [{ title: 'Headcount' }],
      who: url.searchParams.get('who') ?? '',
      ...(await viewTermCount(app, grant)),
    };
  },
);
