<script lang="ts">
  import { enhance } from '$ui/refresh';
  import { when } from '$core/calendar/say-time';

  let { data } = $props();
  const unread = $derived(data.messages.filter((message) => message.unread).length);
</script>

<main class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-6">
  <div class="flex items-center gap-3">
    <h1 class="flex-1 text-2xl font-bold">Mailbox</h1>
    {#if unread > 0}
      <form method="POST" action="?/read" use:enhance>
        <button class="act act-small">Mark all as read</button>
      </form>
    {/if}
  </div>
  <form
    method="POST"
    action="?/mails"
    use:enhance={() =>
      ({ update }) =>
        update({ reset: false })}
  >
    <label class="mt-2 block text-sm text-ink2"
      >{data.mails.email
        ? `By e-mail to ${data.mails.email}, too:`
        : 'By e-mail, too, once an address is known:'}
      <select
        class="field w-auto max-w-full py-1"
        name="mails"
        value={data.mails.rule}
        onchange={(event) => event.currentTarget.form?.requestSubmit()}
      >
        <option value="gathered"
          >within some minutes, gathered; not from {data.quiet.from} to {data.quiet.to}</option
        >
        <option value="daily">once a day, in the morning</option>
        <option value="never">never</option>
      </select></label
    >
  </form>
  {#if data.person?.role === 'teacher'}
    <form
      method="POST"
      action="?/handIns"
      use:enhance={() =>
        ({ update }) =>
          update({ reset: false })}
    >
      <label class="mt-2 block text-sm text-ink2"
        >Of work that is handed in:
        <select
          class="field w-auto max-w-full py-1"
          name="handIns"
          value={data.mails.handIns ? 'yes' : 'no'}
          onchange={(event) => event.currentTarget.form?.requestSubmit()}
        >
          <option value="yes">one message for each assignment, until it is read</option>
          <option value="no">nothing here; it stands on the desk</option>
        </select></label
      >
    </form>
  {/if}
  <ul class="mt-4 border border-rule bg-sheet">
    {#each data.messages as message (message.id)}
      <li
        class={[
          'border-b border-rule px-4 py-2.5 last:border-b-0',
          message.unread && 'border-l-3 border-l-lamp',
        ]}
      >
        <div class="flex items-baseline gap-3">
          <form method="POST" action="?/open" use:enhance class="min-w-0 flex-1">
            <input type="hidden" name="message" value={message.id} />
            <button class="text-left font-bold hover:text-spruce">{message.subject}</button>
          </form>
          {#if message.unread}<span class="text-sm">new</span>{/if}
          <span class="text-sm text-ink2">{when(message.at, data.now, data.timeZone)}</span>
        </div>
        <p class="text-ink2">{message.text}</p>
      </li>
    {:else}
      <li class="px-4 py-3 text-ink2">
        Nothing has come yet. What you are told here: what is handed out and handed back, what is
        due soon, reminders, comments, classes that open.
      </li>
    {/each}
  </ul>
</main>
