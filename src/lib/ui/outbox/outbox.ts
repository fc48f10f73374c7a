/** Something open that may hold words the server does not have yet. */
export interface Sender {
  /** Sends what is unsent. Resolves when the server has it. @throws when it could not be sent */
  flush(): Promise<void>;
  /** Sends it without waiting for an answer: the browser is about to let go of this tab. */
  sendAway(): void;
  readonly hasUnsent: boolean;
}

/** What a view waits for before it is left, in milliseconds; after that the sending goes on without it. */
const PATIENCE = 1500;

/** What this tab's person has written and the server does not have yet. It belongs to the person, not to a view. */
class Outbox {
  private readonly senders = new Set<Sender>();

  /** @returns what takes it out again */
  add(sender: Sender): () => void {
    this.senders.add(sender);
    return () => this.senders.delete(sender);
  }

  get hasUnsent(): boolean {
    return [...this.senders].some((sender) => sender.hasUnsent);
  }

  /** Sends everything. @returns whether the server has it all now; false also when that took too long */
  async flush(patience = PATIENCE): Promise<boolean> {
    const waiting = [...this.senders].filter((sender) => sender.hasUnsent);
    const sent = Promise.all(waiting.map((sender) => sender.flush())).then(
      () => true,
      () => false,
    );
    const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), patience));
    return Promise.race([sent, late]);
  }

  /** Sends what is unsent when the browser is about to let go of this tab. @returns what ends it */
  start(): () => void {
    const away = () => {
      for (const sender of this.senders) sender.sendAway();
    };
    const hidden = () => document.visibilityState === 'hidden' && away();
    addEventListener('pagehide', away);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      removeEventListener('pagehide', away);
      document.removeEventListener('visibilitychange', hidden);
    };
  }
}

export const outbox = new Outbox();
