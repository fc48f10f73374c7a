<script lang="ts">
  import { page } from '$app/state';
</script>

<main class="overflow-auto mx-auto max-w-xl px-6 py-16">
  <h1 class="text-2xl font-bold">{page.status === 404 ? 'Nothing here' : 'That did not work'}</h1>
  <p class="mt-3 text-lg">{page.error?.message}</p>
  <p class="mt-6"><a class="act act-main" href="/">Back to the start</a></p>
</main>
