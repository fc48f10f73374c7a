/** Half-typed words. This tab keeps them over a reload and a step to another view, until they are sent or emptied. */
export class Draft {
  private value = $state('');

  /** @param key of the tab's storage: what the words are about */
  constructor(private readonly key: string) {
    this.value = globalThis.sessionStorage?.getItem(this.key) ?? '';
  }

  get text(): string {
    return this.value;
  }

  set text(text: string) {
    this.value = text;
    if (text) sessionStorage.setItem(this.key, text);
    else sessionStorage.removeItem(this.key);
  }
}
