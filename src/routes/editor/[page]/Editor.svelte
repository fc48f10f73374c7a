<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import type { NodeType } from 'prosemirror-model';
  import { NodeSelection, TextSelection } from 'prosemirror-state';
  import {
    addColumnAfter,
    addColumnBefore,
    addRowAfter,
    addRowBefore,
    deleteColumn,
    deleteRow,
    deleteTable,
    isInTable,
    mergeCells,
    splitCell,
  } from 'prosemirror-tables';
  import type { EditorView } from 'prosemirror-view';
  import { onMount, untrack } from 'svelte';
  import { worthOf } from '$core/marking/answer-key';
  import { sayPoints, sumPoints, writePoints } from '$core/marking/points';
  import type { Part } from '$core/page/parts';
  import { schema } from '$core/page/schema';
  import HandOutIn from '$ui/handout/HandOutIn.svelte';
  import HowWritten from '$ui/history/HowWritten.svelte';
  import AlsoHere from '$ui/page/AlsoHere.svelte';
  import { answerAround, selectedAnswer } from '$ui/page/answers';
  import { followPage } from '$ui/page/follow-page';
  import { pagePlugins } from '$ui/page/page-plugins';
  import { PageSession } from '$ui/page/page-session.svelte';
  import PageToolbar from '$ui/page/PageToolbar.svelte';
  import PageView from '$ui/page/PageView.svelte';
  import SetAside from '$ui/page/SetAside.svelte';
  import SaveWords from '$ui/page/SaveWords.svelte';
  import { enhance } from '$ui/refresh';
  import Adapted from './Adapted.svelte';
  import PartPanel from './PartPanel.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  let view: EditorView | null = $state(null);
  let trouble = $state('');
  let choosing = $state(false);
  let keys = $state(untrack(() => data.keys));
  const sayWorth = ({ id, kind }: Part) => {
    const key = keys[id];
    if (!key) return kind;
    const worth = sayPoints(worthOf(key));
    return key.kind === 'by hand' ? `${worth}, by hand` : `${worth}, key set`;
  };
  /** What the parts come to, where one counts otherwise than for one point. */
  const total = $derived.by(() => {
    const worths = session.parts.flatMap(({ id }) => keys[id] ?? []);
    if (worths.every(({ points }) => points === undefined)) return null;
    return writePoints(sumPoints(worths.map(worthOf)));
  });
  const warn = (sentence: string) => (trouble = sentence);

  // Only what is handed out asks for answers.
  const asks = untrack(() => data.kind === 'original');
  const kind = asks ? 'original' : 'reading';
  const session = untrack(
    () =>
      new PageSession({
        page: data.page,
        version: data.version,
        doc: data.doc,
        setAside: data.setAside,
        plugins: pagePlugins({ kind, warn }),
      }),
  );
  onMount(() => followPage(session));

  const { nodes } = schema;
  const ANSWERS: { label: string; type: NodeType; attrs?: object }[] = [
    { label: 'Short text', type: nodes.answer_short },
    { label: 'Number with a unit', type: nodes.answer_number },
    { label: 'One of several choices', type: nodes.answer_choice },
    { label: 'Any of several choices', type: nodes.answer_choice, attrs: { several: true } },
    { label: 'Long writing', type: nodes.answer_writing, attrs: { aim: 120 } },
    { label: 'Drawing', type: nodes.answer_drawing },
  ];

  function insert({ type, attrs }: (typeof ANSWERS)[number]) {
    choosing = false;
    if (!view) return;
    const option = (text: string) => nodes.choice.create(null, schema.text(text));
    const answer =
      type === nodes.answer_choice
        ? type.create(attrs, [option('first choice'), option('second choice')])
        : type.createAndFill(attrs);
    if (!answer) return;
    const { $from: here } = view.state.selection;
    const around = answerAround(here);
    // A new answer goes below what the cursor is in; an empty line makes room for it.
    const line = here.parent;
    const emptyLine = line.type === nodes.paragraph && line.content.size === 0 && !around;
    const at = around
      ? around.pos + around.node.nodeSize
      : emptyLine
        ? here.before()
        : here.after();
    const transaction = emptyLine
      ? view.state.tr.replaceWith(here.before(), here.after(), answer)
      : view.state.tr.insert(at, answer);
    const inside = answer.isAtom
      ? NodeSelection.create(transaction.doc, at)
      : TextSelection.near(transaction.doc.resolve(at + 1));
    view.dispatch(transaction.setSelection(inside).scrollIntoView());
    view.focus();
  }

  const chosen = $derived.by(() => {
    const around = selectedAnswer(session.state.selection);
    const part = around && session.parts.find(({ id }) => id === around.node.attrs.id);
    return around && part ? { ...around, part } : null;
  });
  const inTable = $derived(isInTable(session.state));
  const TABLE = [
    ['Row above', addRowBefore],
    ['Row below', addRowAfter],
    ['Column left', addColumnBefore],
    ['Column right', addColumnAfter],
    ['Merge cells', mergeCells],
    ['Split cell', splitCell],
    ['Remove row', deleteRow],
    ['Remove column', deleteColumn],
    ['Remove table', deleteTable],
  ] as const;
</script>

<svelte:window onkeydown={(event) => event.key === 'Escape' && (choosing = false)} />

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="flex min-w-0 flex-1 flex-col max-lg:shrink-0">
    <div class="flex flex-wrap items-center border-b border-rule bg-sheet px-4 py-1">
      <PageToolbar {session} {view} {kind} {warn}>
        {#snippet more()}
          {#if asks}<div class="relative ml-2">
              <button
                class="act act-small"
                aria-haspopup="true"
                aria-expanded={choosing}
                onclick={() => (choosing = !choosing)}
              >
                A place for an answer <ChevronDown size={16} aria-hidden="true" />
              </button>
              {#if choosing}
                <ul
                  class="absolute left-0 z-30 mt-1 w-60 rounded-lg border border-rule bg-sheet p-1.5 shadow-sm"
                >
                  {#each ANSWERS as answer (answer.label)}
                    <li>
                      <button
                        class="w-full rounded-md px-3 py-1.5 text-left hover:bg-paper"
                        onclick={() => insert(answer)}>{answer.label}</button
                      >
                    </li>
                  {/each}
                </ul>
              {/if}
            </div>{/if}
        {/snippet}
      </PageToolbar>
      {#if inTable}
        <div class="flex flex-wrap gap-1" role="toolbar" aria-label="Table">
          {#each TABLE as [label, command] (label)}
            <button
              class="act act-small act-plain"
              disabled={!command(session.state)}
              onmousedown={(event) => event.preventDefault()}
              onclick={() => view && command(view.state, view.dispatch)}>{label}</button
            >
          {/each}
        </div>
      {/if}
    </div>
    <div class="min-h-0 flex-1 overflow-auto px-4 py-4 lg:px-14">
      <div class="mx-auto min-h-full max-w-[52rem] border border-rule bg-(--page) px-9 py-6">
        <form
          method="POST"
          action="?/rename"
          use:enhance={() =>
            ({ update }) =>
              update({ reset: false })}
        >
          <h1 class="sr-only">{data.title}</h1>
          <input
            class="w-full border-0 border-b border-dashed border-rule bg-transparent px-0 font-page text-2xl font-semibold focus:border-quiet"
            name="title"
            value={data.title}
            aria-label="Title"
            maxlength="300"
            required
            onchange={(event) => event.currentTarget.form?.requestSubmit()}
          />
        </form>
        {#if session.setAside.length + session.kept.length > 0}<SetAside {session} {view} />{/if}
        <div class="mt-3 pl-4">
          <PageView
            {session}
            label="{data.title}, the {asks ? 'original' : 'page'}"
            editable
            answering={false}
            bind:view
          />
        </div>
        <HowWritten at="/editor/{data.page}" flush={() => session.flush()} />
      </div>
    </div>
  </main>
  <aside
    class="w-84 shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-5 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="Parts of the page"
  >
    {#if trouble || form?.sentence || session.sentence}<p class="trouble mb-3" role="alert">
        {trouble || form?.sentence || session.sentence}
      </p>{/if}
    {#if data.base}
      {#key data.base.version}
        <Adapted
          page={data.page}
          base={data.base}
          {session}
          {view}
          {keys}
          kept={(next) => (keys = next)}
        />
      {/key}
    {/if}
    {#if chosen && view}
      {#key chosen.part.id}
        <PartPanel
          page={data.page}
          {view}
          part={chosen.part}
          node={chosen.node}
          pos={chosen.pos}
          keyOf={keys[chosen.part.id] ?? null}
          kept={(next) => (keys = next)}
          {warn}
        />
      {/key}
    {/if}
    {#each data.notes as note (note.id)}
      <p class="mb-3 border-l-3 border-lamp bg-lamp-pale px-3 py-1.5 text-sm whitespace-pre-line">
        {note.text} <span class="block text-xs text-ink2">{note.by}, for staff only</span>
      </p>
    {/each}
    {#if asks}
      <h2 class="font-bold">
        {session.parts.length === 1 ? '1 part' : `${session.parts.length} parts`}{total
          ? `, ${total} points together`
          : ''}
      </h2>
      <ol class="mt-2">
        {#each session.parts as part (part.id)}
          <li class="flex gap-3 border-b border-rule py-1.5 text-sm">
            <span class="w-5 shrink-0 text-right text-ink2">{part.number}</span>
            <span class="min-w-0 flex-1 truncate">{part.label}</span>
            <span class="text-ink2">{sayWorth(part)}</span>
          </li>
        {:else}
          <li class="text-sm text-ink2">
            Put the cursor under a question and choose “A place for an answer”. What students shall
            not change is your own text around it.
          </li>
        {/each}
      </ol>
    {/if}
    <AlsoHere {session} {view} />
    <p class="mt-4 text-sm text-ink2"><SaveWords {session} timeZone={data.timeZone} /></p>
    <div class="mt-4 flex flex-wrap gap-2">
      <a class="act" href="/room/{data.page}" target="_blank" rel="noopener">Show to the room</a>
      <HandOutIn original={{ id: data.page, title: data.title }} classes={data.classes} main />
    </div>
  </aside>
</div>
