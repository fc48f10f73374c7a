<script lang="ts">
  import { Node } from 'prosemirror-model';
  import { untrack } from 'svelte';
  import type { Difference, Range } from '$core/history/compare';
  import { counted } from '$core/lists/counted';
  import { schema } from '$core/page/schema';
  import { differenceMarks } from './difference-marks';
  import DecoratedPage from './DecoratedPage.svelte';
  import { passageOf } from '$core/history/passage-of';

  interface Props {
    was: object;
    is: object;
    compare: (was: object, is: object) => Promise<Difference[]>;
    /** Puts a passage of the first page back into the page as it is now; null where that cannot be. */
    putBack: ((passage: { from: number; to: number }) => void) | null;
    label: string;
  }
  let { was, is, compare, putBack, label }: Props = $props();

  interface Compared {
    was: Node;
    is: Node;
    differences: Difference[];
  }
  let compared = $state.raw<Compared | null>(null);
  let trouble = $state('');
  $effect(() => {
    const asked = { was, is };
    untrack(() => compare(was, is)).then(
      (differences) => {
        if (asked.was !== was || asked.is !== is) return;
        trouble = '';
        compared = {
          was: Node.fromJSON(schema, was),
          is: Node.fromJSON(schema, is),
          differences,
        };
      },
      () => (trouble = 'These two pages cannot be compared.'),
    );
  });

  const marks = $derived(
    compared ? differenceMarks(compared.was, compared.is, compared.differences) : [],
  );
  const excerpt = (page: Node, { from, to }: Range) => passageOf(page, from, to);
  /** A move is told once, where it went to. */
  const listed = $derived(
    (compared?.differences ?? []).flatMap((one, index) => {
      if (!compared || (one.moved !== null && one.kind === 'removed')) return [];
      const [gone, came] = [excerpt(compared.was, one.was), excerpt(compared.is, one.is)];
      const says = SAYS[one.moved === null ? one.kind : 'moved'];
      return [{ index, says, gone, came, one }];
    }),
  );
  const SAYS = {
    inserted: 'added',
    removed: 'removed',
    replaced: 'changed',
    formatted: 'formatted',
    set: 'changed',
    moved: 'moved',
  };
  const count = (kinds: readonly Difference['kind'][], says: string) => {
    const found = listed.filter(({ one }) => one.moved === null && kinds.includes(one.kind)).length;
    return found > 0 ? [`${found} ${says}`] : [];
  };
  const moved = $derived(listed.filter(({ one }) => one.moved !== null).length);
  const sums = $derived(
    [
      ...count(['inserted'], 'added'),
      ...count(['removed'], 'removed'),
      ...count(['replaced', 'set'], 'changed'),
      ...(moved > 0 ? [`${moved} moved`] : []),
      ...count(['formatted'], 'formatted'),
    ].join(', '),
  );
  const isText = ({ kind }: Difference) => kind !== 'formatted' && kind !== 'set';
</script>

{#if trouble}<p class="trouble mt-3" role="alert">{trouble}</p>{/if}
{#if compared}
  <p class="mt-3 text-sm" aria-live="polite">
    {listed.length === 0
      ? 'Nothing differs.'
      : `${counted(listed.length, 'passage')} ${listed.length === 1 ? 'differs' : 'differ'}: ${sums}.`}
  </p>
  <div class="mt-2">
    <DecoratedPage page={compared.is} {label} decorations={marks} />
  </div>
  {#if listed.length > 0}
    <details class="mt-3 border-t border-rule pt-2">
      <summary class="cursor-pointer text-sm text-ink2">One by one</summary>
      <ol class="mt-1">
        {#each listed as { index, says, gone, came, one } (index)}
          <li class="flex items-baseline gap-3 border-b border-rule py-1 text-sm">
            <span class="w-20 shrink-0 text-ink2">{says}</span>
            <span class="min-w-0 flex-1">
              {#if isText(one) && one.moved === null}
                {#if gone}<del>{gone}</del>{/if}
                {#if came}<ins class="no-underline">{came}</ins>{/if}
                {#if !gone && !came}an empty line{/if}
              {:else}{came || 'no words'}{/if}
            </span>
            {#if putBack && one.was.to > one.was.from}<button
                class="act act-small"
                onclick={() => putBack(one.was)}>Put back</button
              >{/if}
          </li>
        {/each}
      </ol>
    </details>
  {/if}
{:else if !trouble}<p class="mt-3 text-sm text-ink2" role="status">Comparing …</p>{/if}
