<script lang="ts">
  import Room from './Room.svelte';

  let { data } = $props();
</script>

{#key data.page}<Room {data} />{/key}
