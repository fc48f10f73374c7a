import type { Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import type { OthersPlace, PageSession } from './page-session.svelte';

/** Colours that say nothing else in Uncia: they only tell writers apart, whose names stand beside them. */
const COLOURS = [
  'light-dark(#66731a, #b8c46a)',
  'light-dark(#ad2f6e, #e58db5)',
  'light-dark(#4a52b0, #a6acf0)',
  'light-dark(#7b5233, #d2a883)',
] as const;

function colourOf(person: string): string {
  let sum = 0;
  for (const letter of person) sum = (sum * 31 + letter.charCodeAt(0)) % 997;
  return COLOURS[sum % COLOURS.length] ?? COLOURS[0];
}

interface Writer {
  person: string;
  name: string;
}

/** Where the others of a page write, each with their name. */
export class OtherCursors {
  /** By their clients: one person may write in two browsers. */
  private readonly places = new Map<string, number>();
  private readonly writers = new Map<string, Writer>();

  constructor(
    private readonly session: PageSession,
    private readonly view: EditorView,
  ) {
    session.watch = (change, others) => this.moved(change, others);
    view.setProps({ decorations: () => this.drawn() });
  }

  private moved(change: Transaction, others: readonly OthersPlace[]) {
    for (const [client, at] of this.places) this.places.set(client, change.mapping.map(at, -1));
    for (const { client, at } of others) this.places.set(client, at);
  }

  private drawn(): DecorationSet {
    const { doc } = this.session.state;
    const cursors = [...this.places].flatMap(([client, at]) => {
      const writer = this.writers.get(client);
      if (!writer || at > doc.content.size) return [];
      return Decoration.widget(at, () => cursorOf(writer), {
        key: `${client} ${writer.name}`,
        side: -1,
      });
    });
    return DecorationSet.create(doc, cursors);
  }

  /** Somebody is here, and where, if they say so of the page as we know it. */
  here(client: string, writer: Writer, place: { at: number; version: number } | null): void {
    this.writers.set(client, writer);
    const [now] = place
      ? (this.session.placesNow(place.version, [{ from: place.at, to: place.at }]) ?? [])
      : [];
    if (now) this.places.set(client, now.from);
    this.draw();
  }

  /** Somebody left. */
  gone(person: string): void {
    for (const [client, writer] of this.writers)
      if (writer.person === person) {
        this.writers.delete(client);
        this.places.delete(client);
      }
    this.draw();
  }

  private draw() {
    if (!this.view.isDestroyed) this.view.setProps({ decorations: () => this.drawn() });
  }

  close(): void {
    this.session.watch = null;
    if (!this.view.isDestroyed) this.view.setProps({ decorations: () => null });
  }
}

function cursorOf({ person, name }: Writer): HTMLElement {
  const cursor = document.createElement('span');
  cursor.className = 'other-cursor';
  cursor.style.setProperty('--writer', colourOf(person));
  const label = document.createElement('span');
  label.textContent = name;
  cursor.append(label);
  // Who else is here is said beside the page.
  cursor.ariaHidden = 'true';
  return cursor;
}
