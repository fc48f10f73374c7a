import { allowInClass } from '$server/access/allow';
import { may } from '$server/access/table';
import { readOpening } from '$server/class/open-class';
import { readBoard, readTerm } from '$server/class/board';
import type { PageServerLoadEvent } from './$types';

export const load = allowInClass(
  'see the class',
  async ({ depends }: PageServerLoadEvent, { app, person, thing, relation }) => {
    depends('uncia:board');
    return {
      trail: [{ title: `${thing.name} ${thing.title}` }],
      klass: thing,
      mayHandOut: may('hand out', relation),
      opening: await readOpening(app.db, thing.id),
      now: Date.now(),
      term: await readTerm(app.db, thing),
      board: await readBoard(app.db, thing.id, person.id),
    };
  },
);
