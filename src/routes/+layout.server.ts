import { readSeal } from '$server/access/seal';
import { allowAnyone } from '$server/access/allow';
import { countUnread } from '$server/message/messages';
import type { LayoutServerLoadEvent } from './$types';

export const load = allowAnyone(
  'enter',
  async (_event: LayoutServerLoadEvent, { app, person }) => ({
    now: Date.now(),
    unread: person ? await countUnread(app.db, person.id) : 0,
    person: person && {
      id: person.id,
      // Seals what this person leaves in the browser; it is in memory only.
      seal: await readSeal(app.db, person.id),
      role: person.role,
      name: `${person.given} ${person.family}`,
      initials: `${person.given.charAt(0)}${person.family.charAt(0)}`.toUpperCase(),
    },
  }),
);
