import { send } from './send';

/** Who gets what they lack of an assignment in a class. */
interface ToGive {
  class: string;
  assignment: string;
  students: readonly string[];
}

/**
 * Gives students the copies that they lack, one assignment after the other.
 * @returns what removes again what was given; null where nothing was; and why it could not go on
 */
export async function giveCopies(
  all: readonly ToGive[],
): Promise<{ undo: (() => Promise<unknown>) | null; trouble: string }> {
  const given: { route: string; given: object }[] = [];
  let trouble = '';
  try {
    for (const { class: klass, assignment, students } of all) {
      const route = `/classes/${klass}/assignments/${assignment}/gaps`;
      given.push({ route, given: await send(route, { move: 'give', students }) });
    }
  } catch (error) {
    trouble = error instanceof Error ? error.message : '';
  }
  const undo = () =>
    Promise.all(given.map((one) => send(one.route, { move: 'remove', given: one.given })));
  return { undo: given.length > 0 ? undo : null, trouble };
}
