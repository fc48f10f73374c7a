<script lang="ts">
  import BookOpenText from '@lucide/svelte/icons/book-open-text';
  import CalendarClock from '@lucide/svelte/icons/calendar-clock';
  import LogOut from '@lucide/svelte/icons/log-out';
  import Mail from '@lucide/svelte/icons/mail';
  import UserRound from '@lucide/svelte/icons/user-round';
  import SunMoon from '@lucide/svelte/icons/sun-moon';
  import { signOut } from '../outbox/sign-out';
  import Find from './Find.svelte';
  import Menu from './Menu.svelte';
  import { trail } from './trail.svelte';

  interface Person {
    role: 'teacher' | 'student' | 'office';
    name: string;
    initials: string;
  }
  let { person, unread }: { person: Person; unread: number } = $props();

  const HOME = {
    teacher: ['Desk', '/desk'],
    student: ['My work', '/work'],
    office: ['School', '/school'],
  };
  const home = $derived(HOME[person.role]);
  /** Each view says its own way back: the views between home and itself. */
  const steps = $derived(trail.steps);

  function changeLight() {
    const root = document.documentElement;
    const dark = matchMedia('(prefers-color-scheme: dark)').matches;
    const current = root.dataset.light ?? (dark ? 'dark' : 'light');
    root.dataset.light = current === 'dark' ? 'light' : 'dark';
    localStorage.setItem('light', root.dataset.light);
  }
  let stillIn = $state(false);
  const leave = async () => (stillIn = !(await signOut()));
  $effect(() => {
    const kept = localStorage.getItem('light');
    if (kept) document.documentElement.dataset.light = kept;
  });
</script>

<header
  class="flex h-12 shrink-0 print:hidden items-center gap-4 border-b border-rule bg-sheet px-4"
>
  <a href={home[1]} class="flex items-center gap-2.5 text-ink no-underline">
    <img src="/mark.svg" alt="" width="26" height="26" />
    <span class="text-lg font-bold">Uncia</span>
  </a>
  <nav aria-label="Where you are" class="min-w-0 flex-1">
    <ol class="flex items-center gap-2 text-[15px]">
      <li class={['shrink-0', steps.length > 0 && 'max-sm:hidden']}>
        <a
          href={home[1]}
          class={steps.length ? 'text-ink2 no-underline' : 'font-bold text-ink no-underline'}
          aria-current={steps.length ? undefined : 'page'}>{home[0]}</a
        >
      </li>
      {#each steps as step, index (index)}
        <li
          class={[
            'flex min-w-0 items-center gap-2',
            index < steps.length - 1 && 'max-w-2/5 shrink-0 max-sm:hidden',
          ]}
        >
          <span aria-hidden="true" class="text-ink2 max-sm:hidden">›</span>
          {#if step.to && index < steps.length - 1}
            <a href={step.to} class="truncate text-ink2 no-underline">{step.title}</a>
          {:else}
            <span class="truncate font-bold" aria-current="page">{step.title}</span>
          {/if}
        </li>
      {/each}
    </ol>
  </nav>
  <Find />
  {#if person.role !== 'office'}<a
      href="/calendar"
      class="grid h-9 w-9 place-items-center rounded-lg text-ink2 hover:text-ink max-sm:hidden"
      aria-label="What is due"
    >
      <CalendarClock size={20} aria-hidden="true" />
    </a>{/if}
  <a
    href="/mailbox"
    class="relative grid h-9 w-9 place-items-center rounded-lg text-ink2 hover:text-ink"
    aria-label={unread > 0 ? `Mailbox, ${unread} new` : 'Mailbox'}
  >
    <Mail size={20} aria-hidden="true" />
    {#if unread > 0}<span
        class="absolute top-0 right-0 grid h-4 min-w-4 place-items-center rounded-full bg-lamp px-1 text-[11px] font-bold text-sheet"
        aria-hidden="true">{unread}</span
      >{/if}
  </a>
  <Menu
    label="{person.name}: your menu"
    look="grid h-9 w-9 place-items-center rounded-full bg-spruce text-xs font-bold text-on-spruce"
  >
    {#snippet button()}{person.initials}{/snippet}
    <p class="px-3 py-1 text-sm text-ink2">{person.name}</p>
    <a href="/account" class="flex items-center gap-2">
      <UserRound size={18} aria-hidden="true" /> Account
    </a>
    {#if person.role === 'teacher'}<a href="/phrasebook" class="flex items-center gap-2">
        <BookOpenText size={18} aria-hidden="true" /> Phrasebook
      </a>{/if}
    <button class="flex items-center gap-2" onclick={changeLight}>
      <SunMoon size={18} aria-hidden="true" /> Light or dark
    </button>
    <button class="flex items-center gap-2" onclick={leave}>
      <LogOut size={18} aria-hidden="true" /> Sign out
    </button>
  </Menu>
</header>
{#if stillIn}
  <p class="trouble m-3" role="alert">
    You are still signed in: the school’s server cannot be reached. Try again once there is a
    connection, and do not leave this computer to others until then.
    <button class="act act-small ml-2" onclick={leave}>Sign out</button>
  </p>
{/if}
