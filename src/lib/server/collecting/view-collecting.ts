import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readCollecting } from './read-collecting';

/** Collecting for an assignment of a class, as who runs it sees it. */
export async function viewCollecting(app: Using<'db'>, grant: Grant<'run the assignment'>) {
  const { class: klass, id } = grant.thing;
  const { title, students, files } = await readCollecting(app, grant);
  const assignment = `/classes/${klass.id}/assignments/${id}`;
  return {
    trail: [
      { title: `${klass.name} ${klass.title}`, to: `/classes/${klass.id}` },
      { title, to: assignment },
    ],
    /** Where all of it is done. */
    at: `${assignment}/collecting`,
    klass,
    title,
    students,
    files,
  };
}
