import { afterEach, beforeEach } from 'vitest';

/**
 * The tests of this file are one road: each goes on where the one before it left the school. After a failure the rest is
 * skipped, since it would fail of what is missing.
 */
export function oneRoad(): void {
  let isBroken = false;
  beforeEach(({ skip }) => {
    if (isBroken) skip('one before it failed');
  });
  afterEach(({ task }) => {
    isBroken ||= task.result?.state === 'fail';
  });
}
