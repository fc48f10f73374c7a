<script lang="ts">
  import Menu from '$ui/shell/Menu.svelte';

  interface Props {
    original: { id: string; title: string };
    /** In which it can go out; with several, one is chosen first, or all. */
    classes: readonly { id: string; name: string }[];
    /** Whether it is the main thing to do in its view. */
    main?: boolean;
  }
  let { original, classes, main = false }: Props = $props();

  const look = $derived(main ? 'act act-main' : 'act act-small');
  const [first, ...others] = $derived(classes);
  const to = (klass: string) => `/classes/${klass}/hand-out?original=${original.id}`;
</script>

{#if first && others.length === 0}
  <a class={look} href={to(first.id)}
    >Hand out in {first.name}<span class="sr-only">: {original.title}</span></a
  >
{:else if first}
  <Menu label="Hand out: {original.title}" {look} opens={main ? 'up' : 'down'}>
    {#snippet button()}Hand out{/snippet}
    {#each classes as klass (klass.id)}<a href={to(klass.id)}>In {klass.name}</a>{/each}
    <a href="{to(first.id)}&also={others.map(({ id }) => id).join()}"
      >In {classes.length === 2 ? 'both' : `all ${classes.length}`}</a
    >
  </Menu>
{:else if main}
  <p class="text-sm text-ink2">
    It can be handed out once a class is taught from this course. <a href="/classes/new"
      >Create a class</a
    >
  </p>
{/if}
