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
  import { when } from '$core/calendar/say-time';

  interface Props {
    page: string;
    attached: readonly Attached[];
    now: number;
    timeZone: string;
    /** Removes one; null where nobody may. */
    remove?: ((one: Attached) => void) | null;
  }
  /** What is attached to a copy, each to be seen or heard where it stands. */
  let { page, attached, now, timeZone, remove = null }: Props = $props();

  const ICONS = {
    picture: ImageIcon,
    pdf: FileText,
    sound: Volume2,
    film: Film,
    nothing: FileIcon,
  };
  let open: string | null = $state(null);
  const at = (one: Attached) => `/pages/${page}/attached/${one.id}`;
</script>

<ul class="border border-rule" aria-label="Attached">
  {#each attached as one (one.id)}
    {@const as = shownAs(one.type)}
    {@const Icon = one.kind === 'link' ? Link : ICONS[as]}
    {@const canShow = as !== 'nothing' && as !== 'pdf'}
    <li class="border-b border-rule px-3 py-2 last:border-b-0">
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Icon size={20} class="shrink-0 text-ink2" aria-hidden="true" />
        <span class="min-w-40 flex-1 wrap-anywhere">
          <bdi>{one.name}</bdi>
          <span class="block text-sm text-ink2">
            {[one.kind === 'file' && saySize(one.size), when(one.at, now, timeZone)]
              .filter(Boolean)
              .join(', ')}
            {#if one.found === 'cannot be read'}
              · <span class="text-rust">cannot be read here; it can be downloaded</span>
            {:else if one.kind === 'file' && as === 'nothing'}
              · cannot be shown here; it can be downloaded
            {/if}
          </span>
        </span>
        {#if canShow}
          <button
            class="act act-small"
            aria-expanded={open === one.id}
            onclick={() => (open = open === one.id ? null : one.id)}
            >{open === one.id ? 'Hide' : 'Show'}<span class="sr-only"> {one.name}</span></button
          >
        {/if}
        {#if one.kind === 'file'}
          <a class="act act-small act-plain" href={at(one)} download={one.name}
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
      {#if open === one.id}
        <div class="mt-2">
          {#if as === 'picture'}
            <img class="max-h-[70vh] max-w-full border border-rule" src={at(one)} alt={one.name} />
          {:else if as === 'sound'}
            <audio class="w-full" controls src={at(one)} aria-label={one.name}></audio>
          {:else if as === 'film'}
            <!-- svelte-ignore a11y_media_has_caption (a student's own film has none) -->
            <video class="max-h-[70vh] max-w-full" controls src={at(one)} aria-label={one.name}
            ></video>
          {/if}
        </div>
      {/if}
    </li>
  {/each}
</ul>
