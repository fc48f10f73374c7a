<script lang="ts">
  import type { Collectable, Sorted } from '$core/collecting/collected';
  import { saySize, shownAs } from '$core/attached/shown-as';
  import Pick from '$ui/fields/Pick.svelte';

  interface Props {
    files: readonly Sorted[];
    data: { at: string; klass: { id: string }; students: readonly Collectable[] };
    busy: boolean;
    move: (asked: object) => Promise<unknown>;
  }
  /** Collected files, each with whose it is and what can be done with it. */
  let { files, data, busy, move }: Props = $props();

  const nameOf = $derived((id: string | null) => {
    const student = data.students.find((one) => one.id === id);
    return student ? `${student.family}, ${student.given}` : '';
  });
  const fullName = $derived((id: string | null) => {
    const student = data.students.find((one) => one.id === id);
    return student ? `${student.given} ${student.family}` : '';
  });
  const options = $derived(
    data.students.map(({ id, family, given }) => ({ value: id, label: `${family}, ${given}` })),
  );
  /** How it is known whose a file is, or what is to be decided about it. */
  function says({ standing, student, match, others, whose, copy, handedIn, leftOut }: Sorted) {
    const names = match.candidates.map(nameOf).filter(Boolean);
    if (standing === 'collected') return handedIn ? 'handed in with it' : copy ? 'attached' : '';
    if (leftOut[0]) return leftOut[0].why;
    if (standing === 'no copy')
      return `${nameOf(whose)} has no copy of it. Close that gap first: on the board, under “gaps”.`;
    if (standing === 'found') {
      const by = student === null ? `by ${sayBy(match.by)}` : 'said by you';
      return others > 0 ? `${by} · ${others + 1} files of theirs` : by;
    }
    if (standing !== 'doubtful') return '';
    if (names.length === 0) return 'Its name tells nobody of this class.';
    return names.length === 1 && match.by === 'part of a name'
      ? `Perhaps ${names[0]}: only a part of the name is in it.`
      : `It may be of ${names.slice(0, 4).join(' or of ')}${names.length > 4 ? ', or others' : ''}.`;
  }
  const sayBy = (by: string | null) => (by === 'e-mail' ? 'e-mail address' : (by ?? 'name'));
</script>

<ul class="mt-2 border border-rule">
  {#each files as file (file.id)}
    {@const open =
      file.standing === 'found' || file.standing === 'doubtful' || file.standing === 'no copy'}
    <li
      class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-3 py-1.5 last:border-b-0"
    >
      <span class="min-w-56 flex-1 wrap-anywhere">
        {#if shownAs(file.type) !== 'nothing'}<a
            href="{data.at}/files/{file.id}"
            target="_blank"
            rel="noopener external"
            ><bdi>{file.path}</bdi><span class="sr-only"> (opens in a new tab)</span></a
          >{:else}<bdi>{file.path}</bdi>{/if}
        <span class="block text-sm text-ink2"
          >{saySize(file.size)}{says(file) && ` · ${says(file)}`}</span
        >
      </span>
      {#if open}
        <span class="w-60">
          <Pick
            label="Whose is {file.path}?"
            quiet
            {options}
            value={file.standing === 'doubtful' ? (file.student ?? '') : (file.whose ?? '')}
            placeholder={file.whose ? `${nameOf(file.whose)}?` : 'whose is it?'}
            onchange={(student) => void move({ move: 'say whose', file: file.id, student })}
          />
        </span>
        {#if file.standing === 'doubtful' && file.whose}
          <button
            class="act act-small"
            disabled={busy}
            onclick={() => move({ move: 'say whose', file: file.id, student: file.whose })}
            >It is {fullName(file.whose)}’s</button
          >
        {/if}
        {#if file.type === 'application/pdf'}
          <a class="act act-small" href="{data.at}/cut/{file.id}"
            >Cut to students …<span class="sr-only"> {file.path}</span></a
          >
        {/if}
        <button
          class="act act-small act-plain"
          disabled={busy}
          onclick={() => move({ move: 'put aside', files: [file.id], away: true })}
          >Put aside<span class="sr-only"> {file.path}</span></button
        >
      {:else if file.standing === 'collected'}
        <a class="w-60 truncate" href="/classes/{data.klass.id}/marking/{file.copy}"
          >{nameOf(file.whose)}</a
        >
        <button
          class="act act-small act-plain"
          disabled={busy}
          onclick={() => move({ move: 'undo', files: [file.id] })}
          >Undo<span class="sr-only"> collecting {file.path}</span></button
        >
      {:else if file.standing === 'put aside'}
        <button
          class="act act-small"
          disabled={busy}
          onclick={() => move({ move: 'put aside', files: [file.id], away: false })}
          >Bring back<span class="sr-only"> {file.path}</span></button
        >
      {/if}
    </li>
  {/each}
</ul>
