import { personHeader } from './outbox/tab-person';

/**
 * Sends a JSON body and reads the JSON answer.
 * @throws Error with the server's sentence, or one that says it does not answer
 */
export async function send<Answer>(url: string, body: object, method = 'POST'): Promise<Answer> {
  const headers = { 'content-type': 'application/json', ...personHeader() };
  const answer = await fetch(url, { method, body: JSON.stringify(body), headers }).catch(() => {
    throw new Error('The server does not answer. Please try again.');
  });
  const read = await answer.json().catch(() => ({}));
  if (!answer.ok) throw new Error(read.message || 'Something went wrong. Please try again.');
  return read;
}
