import { tick, type Component } from 'svelte';

/** Where the toasts are shown; nothing until the first. */
export const toasts: { Group: Component | null } = $state({ Group: null });

/** Says for some seconds that something is done which is not seen otherwise. */
export async function confirmDone(says: string): Promise<void> {
  const { default: Group, toaster } = await import('./Toasts.svelte');
  toasts.Group = Group;
  await tick();
  toaster.create({ title: says });
}
