import { allowAnyone } from '$server/access/allow';
import { countUnread } from '$server/class/messages';
import type { LayoutServerLoadEvent } from './$types';

export const load = allowAnyone(
  'enter',
  async (_event: LayoutServerLoadEvent, { app, person }) => ({
    unread: person ? await countUnread(app.db, person.id) : 0,
    person: person && {
      id: person.id,
      role: person.role,
      name: `${person.given} ${person.family}`,
      initials: `${person.given.charAt(0)}${person.family.charAt(0)}`.toUpperCase(),
    },
  }),
);
