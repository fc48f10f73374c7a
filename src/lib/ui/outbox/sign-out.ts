import { outbox } from './outbox';

/** Sends what is unsent, then signs out. What could not be sent stays in this browser, sealed, for its writer alone. */
export async function signOut(): Promise<void> {
  await outbox.flush();
  const answer = await fetch('/sign-out', { method: 'POST' }).catch(() => null);
  // A new document: nothing of this person's views stays in memory, and *back* asks the server.
  if (answer) location.replace('/sign-in');
}
