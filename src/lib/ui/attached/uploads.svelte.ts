import type { Upload } from 'tus-js-client';
import { personHeader } from '../outbox/tab-person';

/** A file on its way. */
export interface Underway {
  name: string;
  /** In bytes: how much of it is there. */
  sent: number;
  size: number;
  /** Why it does not go on; empty while it does. */
  trouble: string;
  /** It goes on by itself when the server answers again. */
  waits: boolean;
}

/** Of one piece, in bytes: on a slow line it takes a second or two. */
const PIECE = 512 * 1024;
/** After so many milliseconds it is tried again, until it gets on; then from the first again. */
const TRIES = [0, 1000, 2000, 4000, 8000, 8000, 8000, 15_000, 15_000, 30_000, 30_000, 60_000];

/**
 * Files that go to the server in pieces, by the protocol tus: after a lost network they go on where they were, and so does a file that is
 * chosen again after the tab was closed. What was begun is known by who began it: nobody else on this computer goes on with it.
 */
export class Uploads {
  underway: Underway[] = $state([]);
  private readonly running = new WeakMap<Underway, Upload>();

  /**
   * @param endpoint where they go
   * @param arrived told after each file that is whole, with its id
   */
  constructor(
    private readonly endpoint: string,
    private readonly arrived: (id: string) => void,
  ) {}

  async add(files: readonly File[]): Promise<void> {
    const { Upload } = await import('tus-js-client');
    for (const file of files) {
      this.underway.push({ name: file.name, sent: 0, size: file.size, trouble: '', waits: false });
      const state = this.underway.at(-1);
      if (!state) continue;
      const who = Object.values(personHeader()).join();
      const upload = new Upload(file, {
        endpoint: this.endpoint,
        chunkSize: PIECE,
        retryDelays: TRIES,
        metadata: { filename: file.name },
        headers: personHeader(),
        removeFingerprintOnSuccess: true,
        fingerprint: async () =>
          ['uncia file', who, this.endpoint, file.name, file.size, file.lastModified].join(' '),
        onProgress: (sent) => {
          state.sent = sent;
          state.waits = false;
        },
        onShouldRetry: (error) => {
          const status = error.originalResponse?.getStatus() ?? 0;
          state.waits = status === 0;
          // What the server says no to stays so; a piece that came out of turn is asked about.
          return status === 0 || status >= 500 || status === 409;
        },
        onError: (error) => {
          state.waits = false;
          state.trouble = sentenceOf(error);
        },
        onSuccess: () => {
          this.drop(state);
          this.arrived(upload.url?.split('/').at(-1) ?? '');
        },
      });
      this.running.set(state, upload);
      const before = await upload.findPreviousUploads();
      if (before[0]) upload.resumeFromPreviousUpload(before[0]);
      upload.start();
    }
  }

  /** Gives up a file that is on its way. */
  async cancel(state: Underway): Promise<void> {
    await this.running
      .get(state)
      ?.abort(true)
      .catch(() => undefined);
    this.drop(state);
  }

  again(state: Underway): void {
    state.trouble = '';
    this.running.get(state)?.start();
  }

  private drop(state: Underway) {
    this.running.delete(state);
    this.underway = this.underway.filter((one) => one !== state);
  }
}

/** What the server said, or that it does not answer. */
function sentenceOf(
  error: Error & { originalResponse?: { getBody: () => string } | null },
): string {
  try {
    const { message } = JSON.parse(error.originalResponse?.getBody() ?? '') as {
      message?: unknown;
    };
    if (typeof message === 'string' && message) return message;
  } catch {
    // No sentence came.
  }
  return 'The server does not answer. What is sent so far is kept; please try again.';
}
