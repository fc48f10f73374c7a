<script lang="ts">
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import CorrectPerson from '$ui/people/CorrectPerson.svelte';
  import GivenPasswords from '$ui/people/GivenPasswords.svelte';
  import { enhance } from '$ui/refresh';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import { when } from '$core/calendar/say-time';
  import BringRoster from './BringRoster.svelte';

  let { data, form } = $props();
  const waiting = $derived(data.students.filter(({ waits }) => waits).length);
  const passwords = $derived((form && 'passwords' in form && form.passwords) || []);
  let correcting: string | null = $state(null);
  const zone = $derived(data.klass.time_zone);
</script>

<main class="min-w-0 flex-1 overflow-auto px-5 py-3">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
    <h1 class="text-lg font-bold">{data.klass.name} {data.klass.title}</h1>
    <ClassViews klass={data.klass.id} leads />
  </div>
  {#if form && 'sentence' in form}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  <GivenPasswords {passwords} address={data.address} />
  <div
    class="mt-4 grid max-w-6xl items-start gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]"
  >
    <div>
      <section aria-labelledby="now">
        <div class="flex items-baseline gap-3">
          <h2 id="now" class="flex-1 font-bold">In the class · {data.students.length}</h2>
          {#if waiting > 0}
            <form method="POST" action="?/passwords" use:enhance>
              <button class="act act-small"
                >Give {waiting === 1 ? 'one' : waiting} a first password</button
              >
            </form>
          {/if}
        </div>
        <ul class="mt-1">
          {#each data.students as student (student.id)}
            <li class="flex flex-wrap items-center gap-3 border-b border-rule py-0.5">
              <span class="min-w-0 flex-1 truncate">{student.family}, {student.given}</span>
              <span class="text-sm text-ink2"
                >{student.sign_in_name}{student.waits ? ', no password yet' : ''}</span
              >
              <Menu label="More about {student.given} {student.family}">
                {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
                <a href="/classes/{data.klass.id}/workbook/{student.id}">Open the workbook</a>
                <button onclick={() => (correcting = student.id)}>Correct …</button>
                <FormButton
                  label="Remove from {data.klass.name}"
                  action="student"
                  fields={{ does: 'leaves', student: student.id }}
                />
                {#if !student.waits}<FormButton
                    label="New password"
                    action="password"
                    fields={{ student: student.id }}
                  />{/if}
              </Menu>
              {#if correcting === student.id}{@const { given, family, email } =
                  student}<CorrectPerson
                  action="student"
                  fields={{ does: 'is corrected', student: student.id }}
                  person={{ given, family, email }}
                  done={() => (correcting = null)}
                />{/if}
            </li>
          {:else}<li class="py-2 text-ink2">
              Nobody yet. Bring in the roster from the office, or enter names.
            </li>{/each}
        </ul>
      </section>
      {#if data.asked.length > 0}
        <h2 class="mt-5 font-bold">Asked to join · {data.asked.length}</h2>
        <p class="text-sm text-ink2">
          Other teachers have them. They are in the class once they, or the office, say yes.
        </p>
        <ul class="mt-1">
          {#each data.asked as one (one.person)}
            <li class="border-b border-rule py-1.5">{one.student}</li>
          {/each}
        </ul>
      {/if}
      {#if data.left.length > 0}
        <h2 class="mt-5 font-bold">Left · {data.left.length}</h2>
        <p class="text-sm text-ink2">
          What they made is kept, and is theirs again when they come back.
        </p>
        <ul class="mt-1">
          {#each data.left as student (student.id)}
            <li class="flex items-baseline gap-3 border-b border-rule py-1.5 text-ink2">
              <span class="min-w-0 flex-1 truncate">{student.family}, {student.given}</span>
              <span class="text-sm"
                >{student.left === null ? '' : when(student.left, data.now, zone)}</span
              >
              <FormButton
                label="Bring back"
                action="student"
                fields={{ does: 'comes back', student: student.id }}
                look="act act-small"
              />
            </li>
          {/each}
        </ul>
      {/if}
    </div>
    <div>
      <BringRoster klass={data.klass.id} name={data.klass.name} hasOffice={data.hasOffice} />
      {#if data.changes.length > 0}
        <section class="mt-6" aria-labelledby="changes">
          <h2 id="changes" class="font-bold">What changed</h2>
          <ul class="mt-1">
            {#each data.changes as change, index (change.id)}
              {@const standing = data.changes.findIndex(({ undone }) => !undone) === index}
              <li class={['border-b border-rule py-2', change.undone && 'text-ink2']}>
                <div class="flex items-baseline gap-3">
                  <span class="flex-1 text-sm text-ink2"
                    >{when(change.at, data.now, zone)}, {change.by}, from {change.source}{change.undone
                      ? ', undone'
                      : ''}</span
                  >
                  {#if standing}
                    <form method="POST" action="?/undo" use:enhance>
                      <input type="hidden" name="change" value={change.id} />
                      <button class="act act-small">Undo</button>
                    </form>
                  {/if}
                </div>
                <p class="text-sm">
                  {change.lines
                    .slice(0, 12)
                    .map(({ did, name }) => `${name} ${did === 'asked' ? 'was asked' : did}`)
                    .join('; ')}{change.lines.length > 12
                    ? `; and ${change.lines.length - 12} more`
                    : ''}.
                </p>
              </li>
            {/each}
          </ul>
        </section>
      {/if}
    </div>
  </div>
</main>
