import { enhance as enhanceForm } from '$app/forms';
import { invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';
import type { SubmitFunction } from '@sveltejs/kit';
import { live } from './live.svelte';

/** News is gathered this long before a view is read again, in milliseconds. */
const GATHER = 400;

/**
 * Reads the data of the view again, or what of it depends on this. Not while another view is on its way: reading this
 * one again would stop it, and a click would be lost.
 */
export async function readAgain(dependency?: `uncia:${string}`): Promise<void> {
  if (navigating.to) return;
  await (dependency ? invalidate(dependency) : invalidateAll());
}

/** A form that is sent without leaving the view. Its answer does not stop another view that is on its way. */
export const enhance = (form: HTMLFormElement, submit?: SubmitFunction) =>
  enhanceForm(form, async (input) => {
    const settle = await submit?.(input);
    return async (answer) => {
      if (navigating.to) return;
      await (settle ? settle(answer) : answer.update());
    };
  });

async function refresh(dependency: `uncia:${string}`) {
  // A view that cannot be read again is replaced by an error, so the server is asked first whether it is there.
  const answer = await fetch('/health').catch(() => null);
  if (answer?.ok) await readAgain(dependency);
}

/** Reads a view's data again when there is news. For an `{@attach}` or an effect. @returns what ends it */
export function refreshOnNews(dependency: `uncia:${string}`): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const stop = live.hear(() => {
    timer ??= setTimeout(() => {
      timer = null;
      void refresh(dependency);
    }, GATHER);
  });
  return () => {
    stop();
    if (timer) clearTimeout(timer);
  };
}
