import { enhance as enhanceForm } from '$app/forms';
import { invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';
import type { SubmitFunction } from '@sveltejs/kit';
import type { CopyRow } from '$core/copy/copy-row';
import type { Heard, News } from '$core/live/news';
import { patchCopies, wantsReading } from '$core/live/patch-copies';
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

/** News is gathered this long before a view is read again, in milliseconds. */
const GATHER = 400;

/**
 * Reads the data of the view again, or what of it depends on this. Not while another view is on its way: reading this
 * one again would stop it, and a click would be lost.
 */
export async function readAgain(dependency?: `uncia:${string}`): Promise<void> {
  if (navigating.to) return;
  await reading.during(() => (dependency ? invalidate(dependency) : invalidateAll()));
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

async function refresh(dependency: `uncia:${string}`) {
  // A view that cannot be read again is replaced by an error, so the server is asked first whether it is there.
  const answer = await fetch('/health').catch(() => null);
  await navigating.complete?.catch(() => undefined);
  if (answer?.ok) await readAgain(dependency);
}

/**
 * Reads a view's data again when there is news that it cannot take in by itself. For an effect.
 * @param concerns takes in what it can, and tells whether the view is to be read again
 * @param gather how long news is gathered before, in milliseconds: longer for what is much work to read
 * @returns what ends it
 */
export function refreshOnNews(
  dependency: `uncia:${string}`,
  concerns: (heard: Heard) => boolean,
  gather = GATHER,
): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const stop = live.hear((heard) => {
    if (!concerns(heard)) return;
    timer ??= setTimeout(() => {
      timer = null;
      void refresh(dependency);
    }, gather);
  });
  return () => {
    stop();
    if (timer) clearTimeout(timer);
  };
}

/** Whether something of one of these classes changed that only reading it again can show. */
export const aboutClasses =
  (classes: readonly string[]) =>
  (heard: Heard): boolean =>
    wantsReading(heard, { classes: new Set(classes), copies: [] });

/** Keeps the copies of a view up to date with the news; what is more than they can show is read again. For an effect. */
export function followCopies<T extends CopyRow>(
  dependency: `uncia:${string}`,
  view: {
    /** The classes whose copies it shows. */
    classes: readonly string[];
    /** Who looks. */
    me: string;
    copies: () => readonly T[];
    patch: (copies: readonly T[]) => void;
  },
): () => void {
  const classes = new Set(view.classes);
  const patch = (news: readonly News[]) => {
    const copies = view.copies();
    const next = patchCopies(copies, news, view.me);
    if (next !== copies) view.patch(next);
  };
  const leave = reading.after(patch);
  const stop = refreshOnNews(dependency, (heard) => {
    if (heard !== 'resync') {
      patch(heard);
      reading.heard(heard);
    }
    return wantsReading(heard, { classes, copies: view.copies() });
  });
  return () => {
    leave();
    stop();
  };
}
