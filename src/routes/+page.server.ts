import { redirect } from '@sveltejs/kit';
import { allowAnyone } from '$server/access/allow';
import type { PageServerLoadEvent } from './$types';

const HOME = { teacher: '/desk', student: '/work', office: '/school' };

export const load = allowAnyone('enter', (_event: PageServerLoadEvent, { person }) =>
  redirect(303, person ? HOME[person.role] : '/sign-in'),
);
