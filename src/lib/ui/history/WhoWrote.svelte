<script lang="ts">
  import type { Node } from 'prosemirror-model';
  import { Decoration } from 'prosemirror-view';
  import { when } from '$core/calendar/say-time';
  import type { PageHistory } from '$core/history/page-history';
  import { passageOf } from '$core/history/passage-of';
  import { whoWrote } from '$core/history/who-wrote';
  import { counted } from '$core/lists/counted';
  import type { DrawnMark } from '$ui/drawing/drawing-shown.svelte';
  import type { Moment } from './moments';
  import DecoratedPage from './DecoratedPage.svelte';

  interface Props {
    history: PageHistory;
    moment: Moment;
    /** The page of the moment. */
    page: Node;
    now: number;
  }
  let { history, moment, page, now }: Props = $props();

  const all = $derived(
    whoWrote(page, moment.authorship, history.line, (author) => !history.staff.includes(author)),
  );
  let picked: string | null = $state(null);
  /** Whose words are marked. */
  const chosen = $derived(all.find(({ author }) => author === picked) ?? all[0]);
  const nameOf = (id: string) => history.names[id] ?? '';

  const passages = $derived(
    moment.authorship
      .filter(({ author }) => author === chosen?.author)
      .map(({ from, to, author, first, last }) => {
        const sitting = history.line.findLast(
          (one) => one.author === author && one.first <= last && last <= one.last,
        );
        const time = sitting ? `, ${when(sitting.from, now, history.timeZone)}` : '';
        const taken = history.taken.find(({ version }) => first <= version && version <= last);
        const by = taken
          ? `, taken by ${nameOf(taken.by)} ${when(taken.at, now, history.timeZone)}`
          : '';
        const text = passageOf(page, from, to);
        return {
          from,
          to,
          key: `${from} ${first} ${last}`,
          says: `${nameOf(author)}${by || time}`,
          text,
        };
      }),
  );
  const percent = (share: number) => `${Math.round(share * 100)} %`;
</script>

{#if all.length === 0}
  <p class="mt-3 text-ink2">Nobody has written on it yet.</p>
{:else}
  <ul class="mt-3 grid gap-1.5" aria-label="Who wrote">
    {#each all as { author, stands, strokes, share, written, sittings } (author)}
      <li>
        <button
          class={[
            'w-full rounded-lg border px-3 py-2 text-left',
            author === chosen?.author ? 'border-ice bg-ice-pale' : 'border-rule',
          ]}
          aria-pressed={author === chosen?.author}
          onclick={() => (picked = author)}
        >
          <span class="flex items-baseline gap-3">
            <strong class="min-w-0 flex-1 truncate">{nameOf(author)}</strong>
            {#if share !== null}<span class="font-bold">{percent(share)}</span>{/if}
          </span>
          {#if share !== null}<span class="mt-1 flex h-1.5 rounded-full bg-rule" aria-hidden="true"
              ><span class="rounded-full bg-spruce" style:width="{share * 100}%"></span></span
            >{/if}
          <span class="text-sm text-ink2"
            >{counted(stands, 'character')}{strokes > 0 ? ` and ${counted(strokes, 'stroke')}` : ''} here;
            {written} written in {counted(sittings, 'sitting')}{share === null
              ? '; of the staff, and not counted'
              : ''}</span
          >
        </button>
      </li>
    {/each}
  </ul>
{/if}
<div class="mt-3">
  <DecoratedPage
    {page}
    label="The page, with who wrote it"
    decorations={passages.map(({ from, to, says }) =>
      Decoration.inline(from, to, { class: 'written', title: says }, {
        drawn: 'written',
      } satisfies DrawnMark),
    )}
  />
</div>
{#if passages.length > 0}
  <details class="mt-3 border-t border-rule pt-2">
    <summary class="cursor-pointer text-sm text-ink2"
      >{counted(passages.length, 'passage')} of {chosen ? nameOf(chosen.author) : ''}</summary
    >
    <ol class="mt-1">
      {#each passages as { key, text, says } (key)}
        <li class="flex gap-3 border-b border-rule py-1 text-sm">
          <span class="min-w-0 flex-1">{text || 'no words'}</span>
          <span class="text-ink2">{says}</span>
        </li>
      {/each}
    </ol>
  </details>
{/if}
