import { allowInClass } from '$server/access/allow';
import { viewHandOut } from '$server/handout/view-hand-out';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'hand out',
  async ({ url: { searchParams } }: PageServerLoadEvent, { app, grant }) => {
    const { id, name, title } = grant.thing;
    const asked = {
      draft: searchParams.get('draft'),
      original: searchParams.get('original'),
      form: searchParams.get('form') === 'done or not' ? 'done or not' : 'pages',
      also: (searchParams.get('also') ?? '').split(','),
    } as const;
    return {
      trail: [{ title: `${name} ${title}`, to: `/classes/${id}` }, { title: 'Hand out' }],
      ...(await viewHandOut(app, grant, asked)),
    };
  },
);
