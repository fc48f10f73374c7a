<script lang="ts">
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import CorrectPerson from '$ui/people/CorrectPerson.svelte';
  import GivenPasswords from '$ui/people/GivenPasswords.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import NextSteps from '$ui/shell/NextSteps.svelte';
  import AddPeople from './AddPeople.svelte';
  import SchoolViews from './SchoolViews.svelte';

  let { data, form } = $props();
  const YES_NO = [
    ['Yes', 'true'],
    ['No', 'false'],
  ] as const;
  const ROLES = { teacher: 'Teachers', office: 'Office', student: 'Students' };
  const groups = $derived(
    Object.entries(ROLES).map(([role, title]) => ({
      role,
      title,
      people: data.people.filter((person) => person.role === role),
    })),
  );
  const teachers = $derived(data.people.filter(({ role }) => role === 'teacher'));
  const waiting = $derived(teachers.filter(({ waits, disabled }) => waits && !disabled));
  const passwords = $derived((form && 'passwords' in form && form.passwords) || []);
  const steps = $derived([
    {
      title: 'Say when the terms are, and which clock the school has',
      done: data.terms > 0,
      to: '/school/calendar',
      button: 'Open the calendar',
    },
    {
      title: 'Add the teachers: by hand, from a file, or from the office’s records',
      done: teachers.length > 0,
      to: '#add',
      button: 'Add teachers',
    },
    {
      title: 'Give them first passwords. They begin courses and classes, and bring in students',
      done: teachers.length > 0 && waiting.length === 0,
      to: '#teacher',
      button: 'See who waits',
    },
  ]);
  let changing: string | null = $state(null);
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls) -->
<main tabindex="0" class="mx-auto w-full max-w-5xl flex-1 overflow-auto px-5 py-6">
  <div class="flex flex-wrap items-center gap-6">
    <h1 class="text-2xl font-bold">{data.school.name}</h1>
    <SchoolViews />
  </div>
  <p class="text-ink2">All times are of {data.school.time_zone}.</p>
  {#if form && 'sentence' in form}<p class="trouble mt-3" role="alert">{form.sentence}</p>{/if}
  {#if form && 'says' in form}<p class="notice mt-3" role="status">{form.says}</p>{/if}
  <GivenPasswords {passwords} address={data.address} />
  <NextSteps title="Your school, step by step" {steps} />
  {#if data.asked.length > 0}
    <section class="mt-6" aria-labelledby="asked">
      <h2 id="asked" class="font-bold">Asked into a class by a teacher · {data.asked.length}</h2>
      <p class="text-sm text-ink2">
        The student can say yes, or you can: then they are in the class at once.
      </p>
      <ul class="mt-1">
        {#each data.asked as one (one.class + one.person)}
          <li class="flex flex-wrap items-center gap-3 border-b border-rule py-1.5">
            <span class="min-w-0 flex-1">{one.student} into {one.name}, asked by {one.by}</span>
            {#each YES_NO as [label, yes] (yes)}
              <FormButton
                {label}
                action="answer"
                fields={{ class: one.class, person: one.person, yes }}
                look="act act-small"
              />
            {/each}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  <AddPeople hasOffice={data.hasOffice} />
  {#each groups as group (group.title)}
    <section id={group.role} aria-labelledby="of-{group.role}">
      <div class="mt-6 mb-2 flex items-baseline gap-3">
        <h2 id="of-{group.role}" class="font-bold">{group.title} · {group.people.length}</h2>
        {#if group.role === 'teacher' && waiting.length > 0}
          <FormButton
            label="Give {waiting.length === 1 ? 'one' : waiting.length} a first password"
            action="passwords"
            fields={{ people: waiting.map(({ id }) => id).join(' ') }}
            look="act act-small"
          />
        {/if}
      </div>
      <ul class="grid gap-x-8 sm:grid-cols-2">
        {#each group.people as person (person.id)}
          <li class="flex flex-wrap items-center gap-3 border-b border-rule py-1">
            <span class={['min-w-0 flex-1 truncate', person.disabled && 'text-ink2 line-through']}
              >{person.family}, {person.given}</span
            >
            <span class="text-sm text-ink2"
              >{person.sign_in_name}{person.disabled
                ? ', disabled'
                : person.waits
                  ? ', no password yet'
                  : ''}</span
            >
            <Menu label="More about {person.given} {person.family}">
              {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
              <button onclick={() => (changing = person.id)}>Change …</button>
              {#if !person.disabled}
                <FormButton
                  label={person.waits ? 'First password' : 'New password'}
                  action="passwords"
                  fields={{ people: person.id }}
                />
              {/if}
              {#if person.id !== data.me}
                <FormButton
                  label={person.disabled ? 'Enable the account' : 'Disable the account'}
                  action="disable"
                  fields={{ person: person.id, disabled: person.disabled ? 'false' : 'true' }}
                />
              {/if}
            </Menu>
            {#if changing === person.id}{@const { given, family, email, called, role } =
                person}<CorrectPerson
                action="change"
                fields={{ person: person.id }}
                person={{ given, family, email, called: role === 'student' ? undefined : called }}
                done={() => (changing = null)}
              />{/if}
          </li>
        {:else}<li class="text-ink2">
            {group.role === 'student'
              ? 'Nobody yet. Teachers bring their students in with the roster of a class.'
              : 'Nobody yet.'}
          </li>{/each}
      </ul>
    </section>
  {/each}
</main>
