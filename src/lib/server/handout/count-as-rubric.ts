import { totalOf } from '$core/marking/rubric-steps';
import type { Grant } from '../access/grant';
import { readRubricOf } from '../copy/scorings';
import { Refusal } from '../page/refusal';
import { changeAssignment } from './change-assignment';
import { readHandedOut } from './handed-out';
import { CheckedSpec } from './rights';
import { readNewestChange } from './undo';

/** Makes an assignment count for as many points as its rubric can give. @throws Refusal where it has none */
export async function countAsRubric(
  app: Parameters<typeof changeAssignment>[0] & Parameters<typeof CheckedSpec.check>[0],
  person: string,
  grant: Grant<'change the assignment'>,
): Promise<void> {
  const at = new Date();
  const { id } = grant.thing;
  const rubric = await readRubricOf(app.db, id);
  if (!rubric) throw new Refusal(409, 'This assignment has no rubric any more. Please look again.');
  // Before the spec: who changes it meanwhile is not undone unseen.
  const seen = await readNewestChange(app.db, id);
  const { spec } = await readHandedOut(app.memory, app.db, id, { now: at.getTime() });
  const points = `${totalOf(rubric.table)}`;
  const checked = await CheckedSpec.check(app, person, { ...spec, points });
  await changeAssignment(app, grant, { spec: checked, begin: 'original', seen, at });
}
