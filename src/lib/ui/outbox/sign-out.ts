import { outbox } from './outbox';
import { forgetViews } from './kept-views';

/**
 * Sends what is unsent, then signs out. What could not be sent stays in this browser, sealed, for its writer alone.
 * @returns whether it is done; without the server nobody is signed out
 */
export async function signOut(): Promise<boolean> {
  await outbox.flush();
  const answer = await fetch('/sign-out', { method: 'POST' }).catch(() => null);
  if (!answer?.ok) return false;
  forgetViews();
  // A new document: nothing of this person's views stays in memory, and *back* asks the server.
  location.replace('/sign-in');
  return true;
}
