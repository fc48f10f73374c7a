import { randomUUID } from 'node:crypto';
import pino from 'pino';

const NAMES = ['code', 'severity', 'schema', 'table', 'column', 'constraint', 'routine'] as const;

/**
 * An error as it may be logged. What PostgreSQL says of a failed statement quotes its values, which may be somebody's words;
 * of such an error only its names and the places in our code are kept.
 */
function withoutContents(error: unknown): object {
  if (!(error instanceof Error)) return { type: typeof error };
  const stack = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  const isOfDatabase = 'severity' in error && 'routine' in error;
  return {
    type: error.name,
    ...(isOfDatabase
      ? Object.fromEntries(NAMES.map((name) => [name, Reflect.get(error, name)]))
      : { message: error.message.slice(0, 300) }),
    stack: stack.slice(0, 20).join('\n'),
  };
}

/** One JSON line an entry. Never a page's text, never a password. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  base: { pid: process.pid },
  serializers: { err: withoutContents },
});

/** Marks a request in the log; the person sees it when something went wrong, and can quote it. */
export const newNumber = (): string => randomUUID().slice(0, 8);

/** Logs what nobody expected, and returns the number a person can quote. */
export function logUnexpected(
  error: unknown,
  about: Record<string, unknown>,
  number = newNumber(),
): string {
  log.error({ ...about, number, err: error }, 'unexpected');
  return number;
}
