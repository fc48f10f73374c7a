<script lang="ts">
  import PlainPage from '$ui/page/PlainPage.svelte';
  import { enhance } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';

  interface Props {
    welcome: { id: string; title: string; doc: object } | null;
    about: string;
    staff: { name: string; kind: string }[];
    mayManage: boolean;
    klass: string;
    name: string;
  }
  let { welcome, about, staff, mayManage, klass, name }: Props = $props();
</script>

<section aria-labelledby="welcome">
  <div class="flex items-baseline gap-2">
    <h2 id="welcome" class="flex-1 font-bold">{welcome?.title ?? 'Welcome'}</h2>
    {#if welcome && mayManage}
      <a class="text-sm" href="/editor/{welcome.id}">Edit</a>
      <FormButton
        label="Remove"
        about="the welcome page"
        action="away"
        fields={{ thing: welcome.id, kind: 'page', away: 'true' }}
        look="text-sm"
      />
    {/if}
  </div>
  {#if welcome}
    <div class="mt-1"><PlainPage doc={welcome.doc} label={welcome.title} /></div>
  {:else if mayManage}
    <form method="POST" action="?/begin" use:enhance class="mt-1">
      <input type="hidden" name="title" value="Welcome to {name}" />
      <input type="hidden" name="area" value="welcome" />
      <input type="hidden" name="unit" value="" />
      <button class="act act-small">Write a welcome page</button>
    </form>
  {/if}
</section>
<section class="mt-5" aria-labelledby="staff">
  <div class="flex items-baseline gap-2">
    <h2 id="staff" class="flex-1 font-bold">How to reach us</h2>
    {#if mayManage}<a class="text-sm" href="/classes/{klass}/set-up">Edit</a>{/if}
  </div>
  <ul class="mt-1">
    {#each staff as one, index (index)}<li>
        {one.name} <span class="text-sm text-ink2">{one.kind}</span>
      </li>{/each}
  </ul>
  {#if about}<p class="mt-1 whitespace-pre-line">{about}</p>{/if}
</section>
