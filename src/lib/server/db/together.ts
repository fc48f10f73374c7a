import { setTimeout as pause } from 'node:timers/promises';
import DataLoader from 'dataloader';

/** Of one statement, so that none grows without bound. */
const MOST_AT_ONCE = 500;
/** Between two statements, in milliseconds, so that under load they are few and large. */
const BREATH = 5;

/**
 * Asks questions of one kind together: those that come while some are being asked, or just were, go into the next
 * statement. One alone does not wait.
 * @param ask answers keys in their order
 */
export function together<Key, Answer>(
  ask: (keys: readonly Key[]) => Promise<readonly Answer[]>,
): (key: Key) => Promise<Answer> {
  let asking: Promise<unknown> = Promise.resolve();
  const loader = new DataLoader<Key, Answer>(
    (keys) => {
      const answers = ask(keys);
      asking = Promise.allSettled([answers]).then(() => pause(BREATH));
      return answers;
    },
    {
      cache: false,
      maxBatchSize: MOST_AT_ONCE,
      batchScheduleFn: (run) => void asking.then(run),
    },
  );
  return (key) => loader.load(key);
}
