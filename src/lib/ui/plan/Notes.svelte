<script lang="ts">
  import { enhance } from '$ui/refresh';

  interface Props {
    notes: { id: string; text: string; by: string; own: boolean }[];
    about: 'course' | 'unit' | 'page' | 'rubric';
    id: string;
    /** Whether a new note is being written. */
    open: boolean;
    done: () => void;
    mayWrite: boolean;
  }
  let { notes, about, id, open, done, mayWrite }: Props = $props();
  let changing: string | null = $state(null);
</script>

{#if notes.length > 0 || open}
  <div class="flex flex-col gap-1.5 text-sm">
    {#each notes as note (note.id)}
      <div class="group border-l-3 border-lamp bg-lamp-pale px-3 py-1.5">
        {#if changing === note.id}
          <form
            method="POST"
            action="?/changeNote"
            use:enhance={() =>
              async ({ result, update }) => {
                await update({ reset: false });
                if (result.type === 'success') changing = null;
              }}
            class="flex flex-col gap-1.5"
          >
            <input type="hidden" name="note" value={note.id} />
            <textarea
              class="field"
              name="text"
              rows="2"
              maxlength="2000"
              required
              value={note.text}
              aria-label="The note, changed"></textarea>
            <div class="flex gap-2">
              <button class="act act-small">Save note</button>
              <button
                type="button"
                class="act act-small act-plain"
                onclick={() => (changing = null)}>Cancel</button
              >
            </div>
          </form>
        {:else}<p class="whitespace-pre-line">{note.text}</p>{/if}
        <form
          method="POST"
          action="?/settle"
          use:enhance
          class="flex items-baseline gap-2 text-ink2"
        >
          <input type="hidden" name="note" value={note.id} />
          <span class="flex-1 text-xs">{note.by}, for staff only</span>
          {#if mayWrite && note.own}<button
              type="button"
              class="text-xs font-semibold underline"
              onclick={() => (changing = note.id)}>Change</button
            >{/if}
          {#if mayWrite}<button class="text-xs font-semibold underline">Done</button>{/if}
        </form>
      </div>
    {/each}
    {#if open}
      <form
        method="POST"
        action="?/note"
        use:enhance={() =>
          async ({ result, update }) => {
            await update();
            if (result.type === 'success') done();
          }}
        class="flex flex-col gap-1.5 border-l-3 border-lamp bg-lamp-pale p-2"
      >
        <input type="hidden" name="about" value={about} />
        <input type="hidden" name="id" value={id} />
        <!-- svelte-ignore a11y_autofocus (it opens because it was asked for) -->
        <textarea
          class="field"
          name="text"
          rows="2"
          maxlength="2000"
          required
          autofocus
          aria-label="A note for staff"
          placeholder="For staff only"></textarea>
        <div class="flex gap-2">
          <button class="act act-small">Save note</button>
          <button type="button" class="act act-small act-plain" onclick={done}>Cancel</button>
        </div>
      </form>
    {/if}
  </div>
{/if}
