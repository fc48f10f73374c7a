import { Recorder } from './recorder.svelte';
import { WaitingFile } from './waiting-file.svelte';

/** What goes with the words of a comment while they are written: a picture, or what is spoken. */
export class SaidAlong {
  readonly waiting: WaitingFile;
  readonly recorder: Recorder;

  /**
   * @param page the copy that is commented on
   * @param answer the conversation that is answered; null for a new one
   */
  constructor(page: string, answer: string | null = null) {
    this.waiting = new WaitingFile(page, answer);
    this.recorder = new Recorder((file) => void this.waiting.take(file));
  }

  /** The file that goes along: an id, or null for none. */
  get file(): string | null {
    return this.waiting.file?.id ?? null;
  }
  /** Whether anything goes with the words, or is about to. */
  get isMore(): boolean {
    return this.file !== null || this.isUnderway;
  }
  private get isUnderway(): boolean {
    return this.waiting.uploads.underway.length > 0 || this.recorder.seconds !== null;
  }

  /** Why words cannot be sent with it, in a sentence; null when they can, or there is nothing. */
  fault(text: string): string | null {
    if (this.file === null && this.isUnderway)
      return 'Something still goes with these words. It is sent when it is there.';
    return this.file !== null && !text.trim()
      ? 'Please add a line in words, so that it can be read and found, too.'
      : null;
  }

  /** It went with its words. */
  sentAlong(): void {
    this.waiting.sentAlong();
  }
}
