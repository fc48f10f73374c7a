import { enhance as enhanceForm } from '$app/forms';
import { onMount } from 'svelte';
import { afterNavigate, invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';
import type { SubmitFunction } from '@sveltejs/kit';
import type { CopyRow } from '$core/copy/copy-row';
import type { Heard, News } from '$core/live/news';
import { patchCopies, wantsReading } from '$core/live/patch-copies';
import { backOff } from './back-off';
import { live } from './live.svelte';
import { confirmDone } from './shell/toasts.svelte';

/** What was heard while a view was being read: what comes of the reading may be older than that. */
class Reading {
  private under = 0;
  private meanwhile: News[] = [];
  private readonly takers = new Set<(news: readonly News[]) => void>();

  heard(news: readonly News[]): void {
    if (this.under > 0) this.meanwhile.push(...news);
  }
  /** @param take takes in once more, after each reading, what was heard meanwhile @returns what ends it */
  after(take: (news: readonly News[]) => void): () => void {
    this.takers.add(take);
    return () => this.takers.delete(take);
  }
  async during(read: () => Promise<void>): Promise<void> {
    this.under++;
    try {
      await read();
    } finally {
      this.under--;
      for (const take of this.takers) take(this.meanwhile);
      if (this.under === 0) this.meanwhile = [];
    }
  }
}
const reading = new Reading();

/** What a view's data depends on, as its `load` names it. */
type Dependency = `uncia:${string}`;

/** News is gathered this long before a view is read again, in milliseconds. */
const GATHER = 400;

/** Reads a view again, as `readAgain` does. @returns whether it was read */
async function tryToRead(dependency?: Dependency): Promise<boolean> {
  const answer = await fetch('/health').catch(() => null);
  if (navigating.to || !answer?.ok) return false;
  await reading.during(() => (dependency ? invalidate(dependency) : invalidateAll()));
  return true;
}

/**
 * Reads the data of the view again, or what of it depends on this. Not while another view is on its way: reading this
 * one again would stop it, and a click would be lost. Nor while the server is away: a view that cannot be read again is
 * replaced by an error.
 */
export async function readAgain(dependency?: Dependency): Promise<void> {
  await tryToRead(dependency);
}

/**
 * SvelteKit gives the focus away once a form has succeeded, unless something asks for it: whoever has gone on to another
 * field or menu by then would lose their place. What has the focus asks for it until the answer is taken in.
 */
async function keepingFocus(takeIn: () => void | Promise<void>): Promise<void> {
  let holder: Element | null = null;
  const release = () => holder?.removeAttribute('autofocus');
  const hold = () => {
    release();
    holder = document.activeElement;
    holder?.setAttribute('autofocus', '');
  };
  hold();
  document.addEventListener('focusin', hold);
  try {
    await takeIn();
  } finally {
    document.removeEventListener('focusin', hold);
    release();
  }
}

/** A form that is sent without leaving the view. Its answer does not stop another view that is on its way. */
export const enhance = (form: HTMLFormElement, submit?: SubmitFunction) =>
  enhanceForm(form, async (input) => {
    const settle = await submit?.(input);
    return async (answer) => {
      if (navigating.to) return;
      await reading.during(() => keepingFocus(() => (settle ? settle(answer) : answer.update())));
    };
  });

/** A form that stays as it is filled in, and says that it is saved. */
export const saving =
  (says: string): SubmitFunction =>
  () =>
  async ({ update, result }) => {
    await update({ reset: false });
    if (result.type === 'success') void confirmDone(says);
  };

/**
 * What is to be read again, with what waits for it. It belongs to no view: what was heard of while one was being read
 * again is due all the same.
 */
const due = new Map<Dependency, ReturnType<typeof setTimeout>>();

function readIn(milliseconds: number, dependency: Dependency, failures = 0): void {
  if (due.has(dependency)) return;
  const read = async () => {
    due.delete(dependency);
    await navigating.complete?.catch(() => undefined);
    // What was told is asked for until it is there.
    if (await tryToRead(dependency)) return;
    readIn(backOff(failures + 1), dependency, failures + 1);
  };
  due.set(
    dependency,
    setTimeout(() => void read(), milliseconds),
  );
}

/**
 * Reads a view's data again when there is news that it cannot take in by itself. For the script of a view, which is
 * alive as long as it: in an effect, each reading would begin the hearing anew.
 * @param concerns takes in what it can, and tells whether the view is to be read again
 * @param gather how long news is gathered before, in milliseconds: longer for what is much work to read
 */
export function refreshOnNews(
  dependency: Dependency,
  concerns: (heard: Heard) => boolean,
  gather = GATHER,
): void {
  const take = (heard: Heard) => {
    if (concerns(heard)) readIn(gather, dependency);
  };
  onMount(() => live.hear(take));
  afterNavigate(() => take(live.sinceAsked));
}

/** Whether something of one of these classes changed that only reading it again can show. */
export const aboutClasses =
  (classes: () => readonly string[]) =>
  (heard: Heard): boolean =>
    wantsReading(heard, { classes: new Set(classes()), copies: [] });

/** Whether something was said in the margin of a page: of which, only reading the view again can tell. */
export const aboutMargins = (heard: Heard): boolean =>
  heard !== 'resync' && heard.some(({ kind }) => kind === 'threads');

/** Keeps the copies of a view up to date with the news; what is more than they can show is read again. As `refreshOnNews`. */
export function followCopies<T extends CopyRow>(
  dependency: Dependency,
  view: {
    /** The classes whose copies it shows. */
    classes: () => readonly string[];
    /** Who looks. */
    me: () => string;
    copies: () => readonly T[];
    patch: (copies: readonly T[]) => void;
  },
): void {
  const patch = (news: readonly News[]) => {
    const copies = view.copies();
    const next = patchCopies(copies, news, view.me());
    if (next !== copies) view.patch(next);
  };
  onMount(() => reading.after(patch));
  refreshOnNews(dependency, (heard) => {
    if (heard !== 'resync') {
      patch(heard);
      reading.heard(heard);
    }
    return wantsReading(heard, { classes: new Set(view.classes()), copies: view.copies() });
  });
}
