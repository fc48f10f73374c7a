<script lang="ts">
  import { createTreeViewCollection, TreeView } from '@skeletonlabs/skeleton-svelte';
  import type { Branch } from '$core/lists/forest';

  interface Code {
    id: string;
    code: string;
    statement: string;
    depth: number;
  }
  interface Props {
    /** What a screen reader hears of the tree. */
    label: string;
    trees: Branch<Code>[];
    covered: (id: string) => boolean;
    chosen: string | null;
  }
  let { label, trees, covered, chosen = $bindable() }: Props = $props();

  /** More than these begin closed: a screenful is read, thousands are opened one by one. */
  const MOST_OPEN = 200;

  const collection = $derived(
    createTreeViewCollection<Branch<Code>>({
      nodeToValue: ({ id }) => id,
      nodeToString: ({ row }) => row.code,
      nodeToChildren: ({ under }) => under,
      rootNode: { id: '', row: { id: '', code: '', statement: '', depth: -1 }, under: trees },
    }),
  );
  const branches = (of: Branch<Code>[]): string[] =>
    of.flatMap(({ id, under }) => (under.length > 0 ? [id, ...branches(under)] : []));
  // svelte-ignore state_referenced_locally (what begins open; afterwards its reader opens and closes)
  const atFirst = collection.getValues().length > MOST_OPEN ? [] : branches(trees);
</script>

<TreeView
  {collection}
  defaultExpandedValue={atFirst}
  selectedValue={chosen === null ? [] : [chosen]}
  onSelectionChange={({ selectedValue }) => (chosen = selectedValue[0] ?? null)}
  expandOnClick={false}
>
  <TreeView.Label>
    {#snippet element(attributes)}<h2 {...attributes} class="font-bold">{label}</h2>{/snippet}
  </TreeView.Label>
  <TreeView.Tree class="mt-1 overflow-hidden rounded-lg border border-rule bg-sheet">
    {#each trees as tree, at (tree.id)}{@render node(tree, [at])}{/each}
  </TreeView.Tree>
</TreeView>

{#snippet line({ id, row }: Branch<Code>)}
  <span
    class={['w-3 shrink-0 text-center', covered(id) ? 'text-spruce' : 'text-quiet']}
    aria-hidden="true">{covered(id) ? '●' : '○'}</span
  >
  <strong class="shrink-0">{row.code}</strong>
  <span class="min-w-0 flex-1"
    >{row.statement}<span class="sr-only">, {covered(id) ? 'covered' : 'not covered'}</span></span
  >
{/snippet}

{#snippet node(branch: Branch<Code>, path: number[])}
  {@const look =
    'flex cursor-pointer items-baseline gap-3 border-b border-rule py-2 pr-3 data-selected:bg-ice-pale focus-visible:outline-2 focus-visible:-outline-offset-2'}
  {@const indent = `${path.length * 1.25}rem`}
  <TreeView.NodeProvider value={{ node: branch, indexPath: path }}>
    {#if branch.under.length > 0}
      <TreeView.Context>
        {#snippet children(tree)}
          {@const open = tree().expandedValue.includes(branch.id)}
          <TreeView.Branch>
            <TreeView.BranchControl class={look} style="padding-left: {indent}">
              <TreeView.BranchIndicator
                class="-mx-1.5 -my-1 block self-center p-1.5 [&>svg]:size-4 data-[state=open]:rotate-90"
                onclick={(event) => {
                  event.stopPropagation();
                  if (open) tree().collapse([branch.id]);
                  else tree().expand([branch.id]);
                }}
              />
              {@render line(branch)}
            </TreeView.BranchControl>
            <TreeView.BranchContent>
              {#if open}
                {#each branch.under as one, at (one.id)}{@render node(one, [...path, at])}{/each}
              {/if}
            </TreeView.BranchContent>
          </TreeView.Branch>
        {/snippet}
      </TreeView.Context>
    {:else}
      <TreeView.Item class={look} style="padding-left: calc({indent} + 1.75rem)"
        >{@render line(branch)}</TreeView.Item
      >
    {/if}
  </TreeView.NodeProvider>
{/snippet}
