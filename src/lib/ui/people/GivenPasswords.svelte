<script lang="ts">
  interface Props {
    passwords: { name: string; signInName: string; password: string }[];
    /** Where people sign in. */
    address: string;
  }
  let { passwords, address }: Props = $props();
</script>

{#if passwords.length > 0}
  <section class="notice print-alone mt-3" aria-labelledby="passwords">
    <div class="flex items-baseline gap-3">
      <h2 id="passwords" class="flex-1 font-bold">New passwords, shown this once</h2>
      <button class="act act-small print:hidden" onclick={() => print()}>Print</button>
    </div>
    <p class="text-sm">
      Sign in at {address}, then change the password in Account. Lost ones can be made again.
    </p>
    <table class="mt-2 text-left">
      <thead class="sr-only"><tr><th>Name</th><th>Signs in as</th><th>Password</th></tr></thead>
      <tbody>
        {#each passwords as one (one.signInName)}
          <tr
            ><td class="pr-6">{one.name}</td><td class="pr-6">{one.signInName}</td><td
              class="font-bold">{one.password}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </section>
{/if}
