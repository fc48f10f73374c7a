import { saidAs, type SaidFile } from '$core/copy/said-file';
import { Uploads } from '../attached/uploads.svelte';
import { Draft } from '../draft.svelte';
import { personHeader } from '../outbox/tab-person';

/** The picture or recording that goes with a comment once that has its words. This browser keeps it for its writer till then. */
export class WaitingFile {
  private readonly draft: Draft;
  readonly uploads: Uploads;

  /**
   * @param page the copy that is commented on
   * @param answer the conversation that is answered; null for a new one
   */
  constructor(
    private readonly page: string,
    answer: string | null,
  ) {
    this.draft = new Draft(`said ${answer ?? page}`);
    this.uploads = new Uploads(`/pages/${page}/said`, (id) => {
      this.draft.text = JSON.stringify({ id, ...this.sent });
    });
  }
  private sent: SaidFile | null = null;

  /** What is there now; null for nothing. */
  readonly file: (SaidFile & { id: string; source: string }) | null = $derived.by(() => {
    if (!this.draft.text) return null;
    const one = JSON.parse(this.draft.text) as SaidFile & { id: string };
    return { ...one, source: `/pages/${this.page}/said/${one.id}` };
  });

  async take(file: File): Promise<void> {
    this.sent = { name: file.name, as: saidAs(file.type) ?? 'sound' };
    await this.uploads.add([file]);
  }

  /** It went with its words. */
  sentAlong(): void {
    this.draft.text = '';
  }

  /** It is not wanted. */
  drop(): void {
    const { file } = this;
    this.draft.text = '';
    // The server forgets it by itself, should it not hear of it now.
    if (file)
      void fetch(file.source, { method: 'DELETE', headers: personHeader() }).catch(() => undefined);
  }
}
