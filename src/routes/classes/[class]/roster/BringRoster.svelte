<script lang="ts">
  import FileField from '$ui/fields/FileField.svelte';
  import { FIELDS, type Columns, type Field } from '$core/roster/columns';
  import type { RosterChange } from '$core/roster/compare-roster';
  import type { BadLine } from '$core/roster/read-roster';
  import { readAgain } from '$ui/refresh';

  interface Props {
    klass: string;
    name: string;
    /** Whether the school's office can be asked. */
    hasOffice: boolean;
  }
  let { klass, name, hasOffice }: Props = $props();

  interface Preview {
    changes: (RosterChange & { asks: boolean })[];
    same: number;
    bad: BadLine[];
    header: string[] | null;
    columns: Columns | null;
    officeClasses: { sourcedId: string; title: string; code: string }[] | null;
    officeClass: string | null;
    /** Whether this class and the office's are paired for the first time. */
    isNewPair: boolean;
  }
  const KINDS = {
    joins: 'joins',
    leaves: 'leaves',
    renamed: 'is renamed',
    doubtful: 'is in doubt',
    'shut out': 'may not sign in any more',
    'let in': 'may sign in again',
  };
  const FIELD_NAMES: Record<Field, string> = {
    family: 'Family name',
    given: 'Given name',
    name: 'Whole name',
    id: 'Number',
    email: 'E-mail',
    signIn: 'Sign-in name',
  };

  let source = $state<File | 'office' | null>(null);
  let whole = $state(true);
  let preview = $state<Preview | null>(null);
  let left: string[] = $state([]);
  let decided: Record<string, 'same' | 'new' | ''> = $state({});
  let trouble = $state('');
  let said = $state('');
  let busy = $state(false);
  let byHand = $state('');
  const BY_HAND = 'entered by hand';

  const lines = $derived(preview?.changes ?? []);
  const leaving = $derived(lines.filter(({ kind }) => kind === 'leaves').length);
  const chosen = $derived(
    lines.filter(({ key, kind }) => !left.includes(key) && (kind !== 'doubtful' || decided[key])),
  );

  async function ask(path: 'compare' | 'apply', more: Record<string, string> = {}) {
    if (!source) return null;
    busy = true;
    trouble = '';
    const body = new FormData();
    if (source === 'office') body.set('from', 'office');
    else body.set('roster', source);
    if (source !== 'office' && source?.name === BY_HAND) body.set('from', 'hand');
    body.set('whole', String(whole));
    for (const [field, value] of Object.entries(more)) body.set(field, value);
    const answer = await fetch(`/classes/${klass}/roster/${path}`, { method: 'POST', body }).catch(
      () => null,
    );
    const read = await answer?.json().catch(() => null);
    busy = false;
    if (answer?.ok) return read;
    trouble = read?.message ?? 'The server does not answer. Please try again.';
    return null;
  }
  async function look(more: Record<string, string> = {}) {
    said = '';
    preview = await ask('compare', more);
    left = [];
    decided = {};
  }
  function readAs(): Record<string, string> {
    return {
      ...(preview?.columns ? { columns: JSON.stringify(preview.columns) } : {}),
      ...(preview?.officeClass ? { officeClass: preview.officeClass } : {}),
    };
  }
  async function apply() {
    const spec = chosen.map(({ key }) => ({ key, ...(decided[key] ? { as: decided[key] } : {}) }));
    const done = await ask('apply', { ...readAs(), chosen: JSON.stringify(spec) });
    if (!done) return;
    said =
      done.changes === 0
        ? `The office’s class is remembered for ${name}.`
        : done.changes === 1
          ? '1 change is made. It can be undone below.'
          : `${done.changes} changes are made. They can be undone below.`;
    preview = null;
    source = null;
    byHand = '';
    await readAgain();
  }
  function correct(field: Field, column: string) {
    if (!preview?.columns) return;
    const columns = { ...preview.columns, [field]: column === '' ? null : Number(column) };
    void look({ columns: JSON.stringify(columns) });
  }
  function enter(event: SubmitEvent) {
    event.preventDefault();
    source = new File(
      [
        byHand
          .split('\n')
          .map((line) => `"${line.trim().replaceAll('"', '""')}"`)
          .join('\n'),
      ],
      BY_HAND,
    );
    whole = false;
    void look();
  }
</script>

<section class="border border-rule bg-sheet p-4" aria-labelledby="bring-roster">
  <h2 id="bring-roster" class="font-bold">Update the roster</h2>
  <p class="text-sm text-ink2">
    A CSV file in any usual shape, or a OneRoster package. You see first what would change.
  </p>
  <div class="mt-3 flex flex-wrap items-end gap-3">
    <div class="min-w-52 flex-1">
      <FileField
        label="Roster file"
        accept={['.csv', '.txt', '.tsv', '.zip']}
        {busy}
        onfiles={([file]) => {
          source = file ?? null;
          whole = true;
          void look();
        }}
      />
    </div>
    {#if hasOffice}
      <button
        class="act"
        disabled={busy}
        onclick={() => {
          source = 'office';
          whole = true;
          void look();
        }}>Ask the office</button
      >
    {/if}
  </div>
  <details class="mt-2">
    <summary class="text-sm">Enter names by hand</summary>
    <form onsubmit={enter} class="mt-2 flex flex-col gap-2">
      <textarea
        class="field"
        rows="3"
        bind:value={byHand}
        required
        aria-label="Names, one on a line"
        placeholder="One on a line: Ekholm, Viggo"></textarea>
      <div><button class="act act-small" disabled={busy}>Preview changes</button></div>
    </form>
  </details>
  <div aria-live="polite">
    {#if busy}<p class="mt-3 text-ink2">
        {source === 'office' ? 'Asking the office …' : 'Reading …'}
      </p>{/if}
    {#if said}<p class="mt-3">{said}</p>{/if}
  </div>
  {#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}

  {#if preview}
    {#if preview.officeClasses}
      <label class="mt-4 block max-w-sm"
        ><span class="label">Which of the office’s classes is {name}?</span>
        <select
          class="field"
          value={preview.officeClass ?? ''}
          onchange={(event) => look({ officeClass: event.currentTarget.value })}
        >
          {#if !preview.officeClass}<option value="">choose</option>{/if}
          {#each preview.officeClasses as one (one.sourcedId)}<option value={one.sourcedId}
              >{one.title}{one.code ? ` (${one.code})` : ''}</option
            >{/each}
        </select></label
      >
    {/if}
    {#if preview.columns && preview.header && preview.header.length > 1}
      <fieldset class="mt-4">
        <legend class="label">What the columns hold</legend>
        <div class="flex flex-wrap gap-2">
          {#each FIELDS as field (field)}
            <label class="text-sm"
              >{FIELD_NAMES[field]}
              <select
                class="field py-1"
                value={preview.columns[field] ?? ''}
                onchange={(event) => correct(field, event.currentTarget.value)}
              >
                <option value="">none</option>
                {#each preview.header as title, index (index)}<option value={index}
                    >{title || `column ${index + 1}`}</option
                  >{/each}
              </select></label
            >
          {/each}
        </div>
      </fieldset>
    {/if}
    {#if !preview.officeClasses || preview.officeClass}
      <p class="mt-4 font-bold">
        {lines.length === 0
          ? 'Nothing would change'
          : lines.length === 1
            ? '1 line would change'
            : `${lines.length} lines would change`}; {preview.same === 1
          ? '1 student stays'
          : `${preview.same} students stay`} as they are.
      </p>
      {#if leaving > 2 && leaving > preview.same}
        <p class="notice mt-2">{leaving} would leave. Does the file name the whole class?</p>
      {/if}
      <ul class="mt-1">
        {#each lines as change (change.key)}
          <li class="flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5">
            <label class="flex min-w-0 flex-1 items-center gap-2">
              <input
                type="checkbox"
                checked={!left.includes(change.key)}
                onchange={(event) =>
                  (left = event.currentTarget.checked
                    ? left.filter((one) => one !== change.key)
                    : [...left, change.key])}
              />
              <span
                ><strong>{change.name}</strong>
                <span class={change.kind === 'leaves' ? 'text-rust' : ''}
                  >{change.asks
                    ? 'is asked first: others teach them'
                    : change.kind === 'joins' && change.back
                      ? 'comes back'
                      : change.kind === 'joins' && change.person
                        ? 'joins, known to the school'
                        : KINDS[change.kind]}{change.kind === 'renamed'
                    ? `, was ${change.was}`
                    : ''}</span
                >{change.line ? ` · line ${change.line}` : ''}</span
              >
            </label>
            {#if change.kind === 'doubtful'}
              <select
                class="field w-auto py-1 text-sm"
                bind:value={decided[change.key]}
                aria-label="Who is {change.name}?"
              >
                <option value="">decide: who is this?</option>
                <option value="same">{change.other}, renamed</option>
                <option value="new">somebody else</option>
              </select>
            {/if}
          </li>
        {/each}
      </ul>
      {#if preview.bad.length > 0}
        <details class="mt-3" open>
          <summary
            >{preview.bad.length === 1 ? '1 line is' : `${preview.bad.length} lines are`} skipped</summary
          >
          <ul class="mt-1 max-h-48 overflow-auto text-sm">
            {#each preview.bad as bad, index (index)}<li>
                {bad.line === null ? '' : `line ${bad.line}: `}{bad.says}
              </li>{/each}
          </ul>
        </details>
      {/if}
      <div class="mt-4 flex flex-wrap items-center gap-3">
        <button
          class="act act-main"
          disabled={(chosen.length === 0 && !preview.isNewPair) || busy}
          onclick={apply}
          >{chosen.length === 1
            ? 'Save this change'
            : chosen.length === 0 && preview.isNewPair
              ? 'Remember this class'
              : `Save these ${chosen.length} changes`}</button
        >
        <button class="act act-plain" onclick={() => (preview = null)}>Cancel</button>
      </div>
    {/if}
  {/if}
</section>
