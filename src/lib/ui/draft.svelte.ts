import { read, store } from './outbox/sealed-store';

/** Half-typed words. This browser keeps them for their writer until they are sent or emptied. */
export class Draft {
  private value = $state('');

  /** @param about what the words are about: their name in the person's store */
  constructor(private readonly about: string) {
    void read(this.name).then((kept) => {
      if (typeof kept === 'string' && this.value === '') this.value = kept;
    });
  }

  private get name(): string {
    return `draft ${this.about}`;
  }

  get text(): string {
    return this.value;
  }

  /** The words, which are sent now: what is typed next is something else. */
  take(): string {
    const { text } = this;
    this.text = '';
    return text;
  }
  /** They could not be sent: they stand before what was typed meanwhile. */
  giveBack(words: string): void {
    this.text = [words, this.text].filter(Boolean).join('\n');
  }

  set text(text: string) {
    this.value = text;
    void store(this.name, text || null);
  }
}
