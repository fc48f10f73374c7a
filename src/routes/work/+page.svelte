<script lang="ts">
  import CommentText from '$ui/comments/CommentText.svelte';
  import { asksForWork, flagsOf, isWithTeacher, stateOf, sayState } from '$core/copy/state';
  import { isToDo, nextWork, sayNextStep } from '$core/copy/next-work';
  import { writePoints } from '$core/marking/points';
  import Rosette from '$ui/copy/Rosette.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import { aboutMargins, followCopies, refreshOnNews } from '$ui/refresh';
  import { away, sayDate, when } from '$core/calendar/say-time';

  let { data } = $props();
  let copies: readonly (typeof data.work)[number][] = $derived(data.work);
  followCopies('uncia:work', {
    classes: () => data.classes.map(({ id }) => id),
    me: () => data.person?.id ?? '',
    copies: () => copies,
    patch: (next) => (copies = next),
  });
  refreshOnNews('uncia:work', aboutMargins);

  const work = $derived(
    copies.map((copy) => {
      const state = stateOf(copy.facts);
      const flags = {
        ...flagsOf(copy.facts, data.now),
        unread: state === 'handed back',
        now: false,
      };
      return { ...copy, state, flags };
    }),
  );
  /** Of classmates; what is given can be given otherwise until it has gone back. */
  const toScore = $derived(data.toScore.filter(({ given, back }) => !given || !back));
  /** What is only read asks for nothing. */
  const tasks = $derived(work.filter(asksForWork));
  const next = $derived(nextWork(work, data.now));
  const groups = $derived(
    [
      {
        title: next ? 'Then' : 'To do',
        copies: work.filter((copy) => isToDo(copy) && copy.id !== next?.id),
      },
      {
        title: 'Back from your teacher',
        copies: tasks.filter((copy) => copy.state === 'handed back').reverse(),
      },
      { title: 'Handed in', copies: tasks.filter((copy) => isWithTeacher(copy.state)).reverse() },
      { title: 'To read', copies: work.filter((copy) => !tasks.includes(copy)).reverse() },
    ].filter((group) => group.copies.length > 0),
  );

  const sayCopy = (copy: (typeof work)[number]) => {
    if (copy.replaced) return 'kept for you; you were given another page for it';
    if (copy.delivery === 'to read') return 'to read';
    if (copy.state === 'handed back')
      return copy.points === null
        ? 'read what your teacher wrote'
        : `${writePoints(copy.points)}${copy.most ? ` of ${writePoints(copy.most)}` : ''} points`;
    if (isWithTeacher(copy.state) && copy.facts.handedIn)
      return `${copy.each ? 'you said that you are done' : 'handed in'} ${when(copy.facts.handedIn, data.now, data.timeZone)}`;
    const words = sayState(copy.state, { ...copy.flags, overdue: false }, copy.mask);
    const says = copy.state === 'working' ? `${words} parts done` : words;
    return copy.student === null ? `${says}, ${copy.group || 'all of you'} together` : says;
  };
</script>

<main class="mx-auto w-full max-w-3xl flex-1 overflow-auto px-5 py-6">
  <h1 class="text-2xl font-bold">My work</h1>
  {#each data.asked as one (one.class)}
    <section class="notice mt-3 flex flex-wrap items-center gap-3" aria-label="A class asks you">
      <p class="flex-1">{one.by} would like you to be in <strong>{one.name}</strong>.</p>
      <FormButton
        label="Yes, join"
        action="answer"
        fields={{ class: one.class, yes: 'true' }}
        look="act act-small act-main"
      />
      <FormButton
        label="No"
        action="answer"
        fields={{ class: one.class, yes: 'false' }}
        look="act act-small"
      />
    </section>
  {/each}
  {#if data.classes.length > 0}
    <nav class="mt-1 flex flex-wrap gap-x-4" aria-label="Your classes">
      {#each data.classes as klass (klass.id)}
        <a class="text-ink2" href="/classes/{klass.id}/plan">{klass.name} {klass.title}</a>
      {/each}
    </nav>
  {/if}
  {#if next}
    <section class="mt-5" aria-labelledby="next">
      <h2 id="next" class="mb-2 font-bold">Next</h2>
      <a
        href="/work/{next.id}"
        class="flex flex-wrap items-center gap-x-5 gap-y-3 rounded-xl border border-l-4 border-rule border-l-lamp bg-sheet px-5 py-4 text-ink no-underline hover:border-quiet hover:border-l-lamp"
      >
        <Rosette
          mask={next.mask}
          state={next.state === 'marked' ? 'handed in' : next.state}
          flags={next.flags}
          points={next.points}
          size={56}
        />
        <span class="min-w-0 flex-1 basis-48">
          <span class="block text-xl leading-tight font-bold wrap-anywhere">{next.title}</span>
          <span class="block text-sm text-ink2">{next.class} {next.course} · {sayCopy(next)}</span>
          {#if next.facts.due !== null}<span
              class={['block text-sm', next.flags.overdue ? 'text-rust' : 'text-ink2']}
              ><strong
                >{next.flags.overdue
                  ? 'overdue'
                  : `due ${when(next.facts.due, data.now, data.timeZone)}`}</strong
              >, {away(next.facts.due, data.now)}</span
            >{/if}
        </span>
        <span class="act act-main max-sm:w-full max-sm:justify-center max-sm:text-center"
          >{sayNextStep(next)}</span
        >
      </a>
    </section>
  {/if}
  {#if data.written.length > 0}
    <h2 class="mt-6 mb-2 font-bold">Written to you</h2>
    <ul class="space-y-2">
      {#each data.written as one (`${one.page} ${one.at}`)}
        <li
          class="relative rounded-lg border border-l-4 border-rule border-l-ice bg-sheet px-4 py-2 hover:border-quiet hover:border-l-ice"
        >
          <a
            href={one.kind === 'copy' ? `/work/${one.page}` : `/read/${one.page}`}
            class="line-clamp-2 wrap-anywhere whitespace-pre-line text-ink no-underline after:absolute after:inset-0"
            ><CommentText text={one.text} /></a
          >
          <span class="block text-sm text-ink2"
            >{one.by}, {when(one.at, data.now, data.timeZone)} · {one.title}{one.quote
              ? `, on “${one.quote.length > 40 ? `${one.quote.slice(0, 39)}…` : one.quote}”`
              : ''}</span
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if toScore.length > 0}
    <h2 class="mt-6 mb-2 font-bold">Copies of classmates to score</h2>
    <ul class="space-y-2">
      {#each toScore as one (one.page)}
        <li>
          <a
            href="/work/classmates/{one.page}"
            class="flex flex-wrap items-center gap-x-4 rounded-lg border border-rule bg-sheet px-4 py-2 text-ink no-underline hover:border-quiet"
          >
            <span class="min-w-0 flex-1 basis-48 font-bold wrap-anywhere">{one.title}</span>
            <span class="text-sm text-ink2"
              >{one.class} {one.course} · {one.given ? 'scored' : 'to score'}</span
            >
          </a>
        </li>
      {/each}
    </ul>
  {/if}
  {#each groups as group (group.title)}
    <h2 class="mt-6 mb-2 font-bold">{group.title}</h2>
    <ul class="space-y-2">
      {#each group.copies as copy (copy.id)}
        <li>
          <a
            href="/work/{copy.id}"
            class="flex items-center gap-4 rounded-lg border border-rule bg-sheet px-4 py-3 text-ink no-underline hover:border-quiet"
          >
            <Rosette
              mask={copy.mask}
              state={copy.state === 'marked' ? 'handed in' : copy.state}
              flags={copy.flags}
              points={copy.points}
              size={42}
            />
            <span class="flex min-w-0 flex-1 gap-x-4 max-sm:flex-col sm:items-center">
              <span class="min-w-0 flex-1">
                <span class="line-clamp-3 text-lg leading-tight font-bold wrap-anywhere"
                  >{copy.title}</span
                >
                <span class="block text-sm text-ink2"
                  >{copy.class} {copy.course} · {sayCopy(copy)}</span
                >
              </span>
              {#if copy.facts.due !== null && tasks.includes(copy) && !isWithTeacher(copy.state) && copy.state !== 'handed back'}
                <span
                  class={['text-sm sm:text-right', copy.flags.overdue ? 'text-rust' : 'text-ink2']}
                >
                  <strong class="sm:block"
                    >{copy.flags.overdue
                      ? 'overdue'
                      : `due ${when(copy.facts.due, data.now, data.timeZone)}`}</strong
                  >
                  {away(copy.facts.due, data.now)}
                </span>
              {/if}
            </span>
          </a>
        </li>
      {/each}
    </ul>
  {:else}
    <p class="notice mt-6">
      Nothing has been handed out to you yet. It will appear here by itself.
    </p>
  {/each}
  {#if data.toRead.length > 0}
    <h2 class="mt-8 mb-1 font-bold">Classes that have ended</h2>
    <ul>
      {#each data.toRead as klass (klass.id)}
        <li class="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-2">
          <a class="flex-1 font-bold text-ink" href="/classes/{klass.id}/workbook"
            >{klass.name} {klass.title}</a
          >
          <span class="text-sm text-ink2"
            >your work can be read until {klass.until
              ? sayDate(klass.until, { weekday: true, year: true })
              : ''}</span
          >
        </li>
      {/each}
    </ul>
  {/if}
</main>
