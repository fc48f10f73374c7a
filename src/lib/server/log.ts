import { randomUUID } from 'node:crypto';
import pino from 'pino';

/** One JSON line an entry. Never a page's text, never a password. */
export const log = pino({ level: process.env.LOG_LEVEL ?? 'info', base: { pid: process.pid } });

/** Logs what nobody expected, and returns the number a person can quote. */
export function logUnexpected(error: unknown, about: Record<string, unknown>): string {
  const number = randomUUID().slice(0, 8);
  log.error({ ...about, number, err: error }, 'unexpected');
  return number;
}
