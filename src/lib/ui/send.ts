import { personHeader } from './outbox/tab-person';
import { noteAnswer } from './server-time';

/** What the server said no to, with all that it said. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: Record<string, unknown>,
  ) {
    super(message);
  }
}

/**
 * Sends a JSON body and reads the JSON answer.
 * @throws Refusal with the server's sentence, Error with one of our own, or one that says it does not answer
 */
export const send = <Answer>(url: string, body: object, method = 'POST'): Promise<Answer> =>
  answered(url, {
    method,
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', ...personHeader() },
  });

/** Reads a JSON answer. @throws Refusal or Error, as `send` */
export const fetchJson = <Answer>(url: string): Promise<Answer> => answered(url, {});

async function answered<Answer>(url: string, init: RequestInit): Promise<Answer> {
  const answer = await fetch(url, init).catch(() => {
    throw new Error('The server does not answer. Please try again.');
  });
  noteAnswer(answer);
  const read = await answer.json().catch(() => ({}));
  if (!answer.ok)
    throw new Refusal(
      answer.status,
      read.message || 'Something went wrong. Please try again.',
      read,
    );
  return read;
}
