import { personHeader } from './outbox/tab-person';

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
export async function send<Answer>(url: string, body: object, method = 'POST'): Promise<Answer> {
  const headers = { 'content-type': 'application/json', ...personHeader() };
  const answer = await fetch(url, { method, body: JSON.stringify(body), headers }).catch(() => {
    throw new Error('The server does not answer. Please try again.');
  });
  const read = await answer.json().catch(() => ({}));
  if (!answer.ok)
    throw new Refusal(
      answer.status,
      read.message || 'Something went wrong. Please try again.',
      read,
    );
  return read;
}
