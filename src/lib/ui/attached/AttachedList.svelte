<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import FileIcon from '@lucide/svelte/icons/file';
  import FileText from '@lucide/svelte/icons/file-text';
  import Film from '@lucide/svelte/icons/film';
  import ImageIcon from '@lucide/svelte/icons/image';
  import Link from '@lucide/svelte/icons/link';
  import Volume2 from '@lucide/svelte/icons/volume-2';
  import type { Attached } from '$core/attached/attached';
  import { saySize, shownAs } from '$core/attached/shown-as';
  import { counted } from '$core/lists/counted';
  import { when } from '$core/calendar/say-time';
  import type { Talk } from './talk';
  import ShownAttached from './ShownAttached.svelte';

  interface Props {
    page: string;
    attached: readonly Attached[];
    now: number;
    timeZone: string;
    /** Removes one; null where nobody may. */
    remove?: ((one: Attached) => void) | null;
    /** Looks once more whether others can open a link; null where nobody may. */
    lookAgain?: ((one: Attached) => void) | null;
    /** What is said about it; null where that is not shown. */
    talk?: Talk | null;
    label?: string;
  }
  /** What is attached to a copy, each to be seen or heard where it stands. */
  let {
    page,
    attached,
    now,
    timeZone,
    remove = null,
    lookAgain = null,
    talk = null,
    label = 'Attached',
  }: Props = $props();

  const ICONS = {
    picture: ImageIcon,
    pdf: FileText,
    page: FileText,
    sound: Volume2,
    film: Film,
    nothing: FileIcon,
  };
  let open: string | null = $state(null);
  /** Whoever chooses a comment sees what it stands on. */
  const chosen = $derived(
    talk?.threads.find(({ id, on }) => on !== null && id === talk.chosen) ?? null,
  );
  let shown: string | null = null;
  $effect(() => {
    if (chosen?.id === shown) return;
    shown = chosen?.id ?? null;
    if (!chosen?.on || chosen.on.spot.kind === 'whole') return;
    open = chosen.on.attachment;
  });
  const said = (id: string) => talk?.threads.filter(({ on }) => on?.attachment === id).length ?? 0;

  /** As what it is shown here: a link as what was kept of it. */
  const asOf = ({ kind, type, isPage, kept }: Attached) => {
    const of = kind === 'file' ? { type, isPage } : (kept ?? { type: null, isPage: false });
    return of.isPage ? ('page' as const) : shownAs(of.type);
  };
  const at = (one: Attached) => `/pages/${page}/attached/${one.id}`;
  const sayTimes = (one: Attached) =>
    [
      one.kind === 'file' && saySize(one.size),
      when(one.at, now, timeZone),
      one.kept && `kept as it was ${when(one.kept.at, now, timeZone)}`,
    ]
      .filter(Boolean)
      .join(', ');
</script>

<ul class="border border-rule" aria-label={label}>
  {#each attached as one (one.id)}
    {@const as = asOf(one)}
    {@const Icon = one.kind === 'link' ? Link : ICONS[as]}
    {@const canShow = as !== 'nothing'}
    <li class="border-b border-rule px-3 py-2 last:border-b-0">
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Icon size={20} class="shrink-0 text-ink2" aria-hidden="true" />
        <span class="min-w-40 flex-1 wrap-anywhere">
          {#if one.kind === 'link'}
            <a href={one.name} target="_blank" rel="noopener noreferrer nofollow external"
              >{one.name}<span class="sr-only"> (opens in a new tab)</span></a
            >
          {:else}<bdi>{one.name}</bdi>{/if}
          <span class="block text-sm text-ink2">
            {sayTimes(one)}
            {#if one.found === 'cannot be read'}
              · <span class="text-rust">cannot be read here; it can be downloaded</span>
            {:else if one.found === 'cannot be opened'}
              · <span class="text-rust">others cannot open it</span>
            {:else if one.found === 'not looked at yet'}
              · is being looked at
            {:else if one.kind === 'link'}
              · others can open it
            {:else if as === 'nothing'}
              · cannot be shown here; it can be downloaded
            {/if}
          </span>
        </span>
        {#if one.kind === 'link' && one.found === 'cannot be opened' && lookAgain}
          <button class="act act-small" onclick={() => lookAgain(one)}
            >Check again<span class="sr-only"> {one.name}</span></button
          >
        {/if}
        {#if said(one.id) > 0}<span class="text-sm text-ink2"
            >{counted(said(one.id), 'comment')}</span
          >{/if}
        {#if talk?.pick}
          <button
            class="act act-small act-plain"
            onclick={() => talk.pick?.({ attachment: one.id, spot: { kind: 'whole' }, quote: '' })}
            >Comment<span class="sr-only"> on {one.name}</span></button
          >
        {/if}
        {#if canShow}
          <button
            class="act act-small"
            aria-expanded={open === one.id}
            onclick={() => (open = open === one.id ? null : one.id)}
            >{open === one.id ? 'Hide' : one.kind === 'link' ? 'Show what was kept' : 'Show'}<span
              class="sr-only"
            >
              {one.name}</span
            ></button
          >
        {/if}
        {#if one.kind === 'file' || one.kept}
          <a
            class="act act-small act-plain"
            href="{at(one)}{one.kind === 'link' ? '?kept' : ''}"
            download={one.kind === 'file' ? one.name : ''}
            ><Download size={16} aria-hidden="true" /><span class="sr-only"
              >Download {one.name}</span
            ></a
          >
        {/if}
        {#if remove}
          <button class="act act-small act-plain" onclick={() => remove(one)}
            >Remove<span class="sr-only"> {one.name}</span></button
          >
        {/if}
      </div>
      {#if open === one.id && canShow}
        <div class="mt-2">
          <ShownAttached
            {as}
            at={at(one)}
            kept={one.kind === 'link'}
            name={one.name}
            attachment={one.id}
            {talk}
          />
        </div>
      {/if}
    </li>
  {/each}
</ul>
