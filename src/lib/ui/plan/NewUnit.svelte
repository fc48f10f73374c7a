<script lang="ts">
  import type { Snippet } from 'svelte';
  import { enhance } from '$ui/refresh';

  /** What else can be done beside it. */
  let { children }: { children?: Snippet } = $props();
</script>

<form method="POST" action="?/unit" use:enhance class="mt-2 flex flex-wrap gap-2">
  <input
    class="field max-w-72"
    name="title"
    placeholder="New unit"
    aria-label="Title of a new unit"
    maxlength="300"
    required
  />
  <button class="act">Add unit</button>
  {@render children?.()}
</form>
