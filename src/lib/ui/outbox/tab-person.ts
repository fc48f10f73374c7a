import { PERSON_HEADER } from '$core/page/person-header';

/**
 * Whose tab this is. A request that changes something says so, so that what one person wrote is never taken in under
 * the name of the next who signs in on this computer.
 */
let id = '';

const CHANNEL = 'uncia person';

export const personHeader = (): Record<string, string> => (id ? { [PERSON_HEADER]: id } : {});

/** Says to the other tabs who is here now; those of somebody else begin anew. @returns what ends the listening */
export function beTabOf(person: string): () => void {
  id = person;
  const channel = new BroadcastChannel(CHANNEL);
  channel.onmessage = ({ data }) => data !== id && location.reload();
  channel.postMessage(id);
  return () => channel.close();
}
