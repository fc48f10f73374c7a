import { personHeader } from '../outbox/tab-person';
import { send } from '../send';

/** In bytes. A file goes in pieces: a connection that breaks costs one of them. */
const PIECE = 4_000_000;
const TRIES = 4;

/**
 * Sends an archive to be opened.
 * @param each told how many of all bytes have arrived
 * @throws Error with the sentence for the person
 */
export async function bringArchive(
  file: File,
  each: (done: number, total: number) => void,
): Promise<void> {
  const { name, size } = file;
  const { id } = await send<{ id: string }>('/classes/open', { name, size });
  for (let n = 0; n * PIECE < size; n++) {
    await sendPiece(`/classes/open/${id}/${n}`, file.slice(n * PIECE, (n + 1) * PIECE));
    each(Math.min(size, (n + 1) * PIECE), size);
  }
  await send(`/classes/open/${id}`, {});
}

async function sendPiece(url: string, body: Blob): Promise<void> {
  for (let attempt = 1; ; attempt++) {
    const answer = await fetch(url, {
      method: 'PUT',
      body,
      headers: { 'content-type': 'application/octet-stream', ...personHeader() },
    }).catch(() => null);
    if (answer?.ok) return;
    const says = answer ? ((await answer.json().catch(() => ({}))).message ?? '') : '';
    if (answer && answer.status < 500) throw new Error(says);
    if (attempt === TRIES)
      throw new Error(
        'The archive did not arrive: the connection broke several times. Please try again.',
      );
    await new Promise((resolve) => setTimeout(resolve, 1_000 * attempt));
  }
}
