<script lang="ts">
  import Tip from '$ui/fields/Tip.svelte';
  import Bold from '@lucide/svelte/icons/bold';
  import Code from '@lucide/svelte/icons/code';
  import Heading from '@lucide/svelte/icons/heading';
  import ImagePlus from '@lucide/svelte/icons/image-plus';
  import Italic from '@lucide/svelte/icons/italic';
  import Link from '@lucide/svelte/icons/link';
  import List from '@lucide/svelte/icons/list';
  import ListOrdered from '@lucide/svelte/icons/list-ordered';
  import Redo from '@lucide/svelte/icons/redo-2';
  import Sigma from '@lucide/svelte/icons/sigma';
  import Table from '@lucide/svelte/icons/table';
  import Undo from '@lucide/svelte/icons/undo-2';
  import { setBlockType, toggleMark } from 'prosemirror-commands';
  import { redo } from 'prosemirror-history';
  import { NodeSelection, type Command } from 'prosemirror-state';
  import type { EditorView } from 'prosemirror-view';
  import type { Snippet } from 'svelte';
  import { schema } from '$core/page/schema';
  import { listAround, toggleList } from './lists';
  import type { Editing } from './editing';
  import { uploadPicture } from './paste';

  interface Props {
    session: Editing;
    view: EditorView | null;
    kind: 'original' | 'reading' | 'copy';
    warn: (sentence: string) => void;
    more?: Snippet;
  }
  let { session, view, kind, warn, more }: Props = $props();

  const { nodes, marks } = schema;
  let picker: HTMLInputElement | undefined = $state();

  function run(command: Command) {
    if (!view) return;
    command(view.state, view.dispatch);
    view.focus();
  }
  const can = (command: Command) => command(session.state);
  const isHeading = (level: number) => {
    const { parent } = session.state.selection.$from;
    return parent.type === nodes.heading && parent.attrs.level === level;
  };
  const toggleHeading = (level: number): Command =>
    isHeading(level) ? setBlockType(nodes.paragraph) : setBlockType(nodes.heading, { level });
  const list = $derived(listAround(session.state)?.node.type);
  const isCode = $derived(session.state.selection.$from.parent.type === nodes.code_lines);
  const hasMark = (mark: typeof marks.strong) => {
    const { from, $from: at, to, empty } = session.state.selection;
    return empty
      ? !!mark.isInSet(session.state.storedMarks ?? at.marks())
      : session.state.doc.rangeHasMark(from, to, mark);
  };

  const insertTable: Command = (state, dispatch) => {
    const cell = (type: typeof nodes.table_cell) => type.createAndFill();
    const row = (type: typeof nodes.table_cell) =>
      nodes.table_row.create(
        null,
        [cell(type), cell(type), cell(type)].filter((one) => one !== null),
      );
    const table = nodes.table.create(null, [
      row(nodes.table_header),
      row(nodes.table_cell),
      row(nodes.table_cell),
    ]);
    dispatch?.(state.tr.replaceSelectionWith(table).scrollIntoView());
    return true;
  };

  /** What is put in or changed in a dialog, which comes when it is first asked for. */
  let asking: 'link' | 'formula' | 'picture' | null = $state(null);
  const picture = $derived.by(() => {
    const { selection } = session.state;
    return selection instanceof NodeSelection && selection.node.type === nodes.picture;
  });
  async function addPictures() {
    for (const file of picker?.files ?? [])
      try {
        const name = await uploadPicture(file);
        view?.dispatch(
          view.state.tr.replaceSelectionWith(
            nodes.picture.create({ file: name, alt: file.name.replace(/\.[^.]*$/, '') }),
          ),
        );
      } catch (error) {
        warn(error instanceof Error ? error.message : 'The picture could not be added.');
      }
    if (picker) picker.value = '';
  }
</script>

{#snippet tool(label: string, Icon: typeof Bold, command: Command, pressed?: boolean)}
  <Tip
    says={label}
    class={[
      'grid h-9 min-w-9 place-items-center max-sm:min-w-7.5 rounded-md text-ink hover:bg-paper disabled:opacity-40',
      pressed && 'bg-ice-pale',
    ]}
    aria-pressed={pressed}
    disabled={!view || !can(command)}
    onmousedown={(event) => event.preventDefault()}
    onclick={() => run(command)}><Icon size={18} aria-hidden="true" /></Tip
  >
{/snippet}

<div class="flex flex-wrap items-center gap-0.5" role="toolbar" aria-label="Writing">
  {@render tool('Undo', Undo, session.undo)}
  {@render tool('Redo', Redo, redo)}
  <span class="mx-1 h-5 border-l border-rule max-sm:hidden"></span>
  {#if kind !== 'copy'}
    {#each [1, 2, 3] as level (level)}
      <Tip
        says="Heading {level}"
        class={[
          'h-9 rounded-md px-2 text-sm font-bold hover:bg-paper',
          isHeading(level) && 'bg-ice-pale',
        ]}
        aria-pressed={isHeading(level)}
        onmousedown={(event) => event.preventDefault()}
        onclick={() => run(toggleHeading(level))}
        ><Heading size={18} class="inline" aria-hidden="true" />{level}</Tip
      >
    {/each}
  {/if}
  {@render tool('Bold', Bold, toggleMark(marks.strong), hasMark(marks.strong))}
  {@render tool('Italic', Italic, toggleMark(marks.emphasis), hasMark(marks.emphasis))}
  {@render tool('List', List, toggleList(nodes.bullet_list), list === nodes.bullet_list)}
  {@render tool(
    'Numbered list',
    ListOrdered,
    toggleList(nodes.ordered_list),
    list === nodes.ordered_list,
  )}
  {@render tool(
    'Code lines',
    Code,
    isCode ? setBlockType(nodes.paragraph) : setBlockType(nodes.code_lines),
    isCode,
  )}
  <span class="mx-1 h-5 border-l border-rule max-sm:hidden"></span>
  <Tip
    says="Link"
    class="grid h-9 min-w-9 place-items-center max-sm:min-w-7.5 rounded-md hover:bg-paper"
    onclick={() => (asking = 'link')}><Link size={18} aria-hidden="true" /></Tip
  >
  <Tip
    says={picture ? 'Size and description' : 'Picture'}
    class="grid h-9 min-w-9 place-items-center max-sm:min-w-7.5 rounded-md hover:bg-paper"
    onclick={() => (picture ? (asking = 'picture') : picker?.click())}
    ><ImagePlus size={18} aria-hidden="true" /></Tip
  >
  <input
    bind:this={picker}
    type="file"
    accept="image/png,image/jpeg,image/gif,image/webp"
    multiple
    hidden
    aria-label="Choose a picture"
    onchange={addPictures}
  />
  <Tip
    says="Formula"
    class="grid h-9 min-w-9 place-items-center max-sm:min-w-7.5 rounded-md hover:bg-paper"
    onclick={() => (asking = 'formula')}><Sigma size={18} aria-hidden="true" /></Tip
  >
  {#if kind !== 'copy'}{@render tool('Table', Table, insertTable)}{/if}
  {@render more?.()}
</div>

{#if asking && view}{#await import('./InsertSheet.svelte') then { default: InsertSheet }}<InsertSheet
      {view}
      what={asking}
      done={() => (asking = null)}
    />{/await}{/if}
