<script lang="ts">
  import MomentField from '$ui/fields/MomentField.svelte';
  import OnOff from '$ui/fields/OnOff.svelte';
  import Ellipsis from '@lucide/svelte/icons/ellipsis';
  import { sayChangeFact } from '$core/handout/say-change';
  import { isBehind } from '$core/copy/copy-row';
  import { asksForWork } from '$core/copy/state';
  import { patchCopies } from '$core/live/patch-copies';
  import { isMeant } from '$core/handout/spec';
  import { counted } from '$core/lists/counted';
  import { listed } from '$core/lists/listed';
  import { writePoints } from '$core/marking/points';
  import { Clock } from '$ui/clock.svelte';
  import Rosette from '$ui/copy/Rosette.svelte';
  import BehindNotice from '$ui/marking/BehindNotice.svelte';
  import { aboutClasses, enhance, readAgain, refreshOnNews } from '$ui/refresh';
  import { send } from '$ui/send';
  import ClassViews from '$ui/shell/ClassViews.svelte';
  import FormButton from '$ui/shell/FormButton.svelte';
  import Menu from '$ui/shell/Menu.svelte';
  import { away, when } from '$core/calendar/say-time';
  import { cellOf } from '../../board-cells';
  import AsReally from './AsReally.svelte';
  import CheckAgain from './CheckAgain.svelte';
  import Corrections from './Corrections.svelte';

  let { data, form } = $props();
  const clock = new Clock();
  $effect(() => clock.run(5000));
  let longer: string | null = $state(null);

  const assignment = $derived(data.assignment);
  let copies: readonly (typeof assignment.copies)[number][] = $derived(assignment.copies);
  const aboutItsClasses = aboutClasses(() => assignment.classes.map(({ id }) => id));
  refreshOnNews('uncia:board', (heard) => {
    // Other assignments of the class are not shown here: only what is is taken in.
    if (heard !== 'resync') copies = patchCopies(copies, heard, data.person?.id ?? '');
    return aboutItsClasses(
      heard === 'resync' ? heard : heard.filter(({ kind }) => kind === 'class'),
    );
  });
  const spec = $derived(assignment.spec);
  const zone = $derived(data.klass.time_zone);
  const here = $derived(assignment.classes.find(({ id }) => id === data.klass.id));
  const meant = $derived(isMeant(spec));
  const rows = $derived(
    assignment.students.map((student) => ({
      ...student,
      copies: copies
        .filter(({ members }) => members.includes(student.id))
        .map((copy) => {
          const cell = cellOf(copy, student.id, clock.now);
          const says = [
            cell.says,
            copy.adapted && 'adapted page',
            copy.group,
            copy.student === null &&
              copy.facts.opened !== null &&
              !copy.openers.includes(student.id) &&
              copy.delivery !== 'to read' &&
              'has not opened it',
          ];
          return { ...copy, ...cell, says: says.filter(Boolean).join(' · ') };
        }),
      allowed: assignment.allowances.find((one) => one.student === student.id),
      meant: meant(student.id),
      missing: assignment.missing.includes(student.id),
    })),
  );
  /** Those who share a page stand together. */
  const groupOf = (row: (typeof rows)[number]) =>
    row.copies.find(({ group }) => group)?.group ?? '';
  /** Who is meant to get it, or has it all the same. */
  const receivers = $derived(
    rows
      .filter((row) => row.meant || row.copies.length > 0)
      .sort((a, b) => groupOf(a).localeCompare(groupOf(b))),
  );
  const others = $derived(rows.filter((row) => !receivers.includes(row)));
  let trouble = $state('');

  /** What they share with others they leave; what is theirs alone goes out of their sight. Giving it brings both back. */
  async function remove({ id, copies: theirs }: (typeof rows)[number]) {
    trouble = '';
    const given = {
      copies: theirs.flatMap(({ id: copy, student }) => (student === null ? [] : [copy])),
      places: theirs.flatMap(({ id: copy, student }) =>
        student === null ? [{ copy, student: id }] : [],
      ),
    };
    try {
      await send(`/classes/${data.klass.id}/assignments/${assignment.id}/gaps`, {
        move: 'remove',
        given,
      });
      await readAgain('uncia:board');
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
  async function askOwnScoring(asked: boolean) {
    trouble = '';
    try {
      await send(`/classes/${data.klass.id}/assignments/${assignment.id}/own-scoring`, { asked });
      await readAgain('uncia:board');
    } catch (error) {
      trouble = error instanceof Error ? error.message : '';
    }
  }
  let checked: number | null = $state(null);
  const nameOf = (student: string) => rows.find(({ id }) => id === student)?.name ?? '';
  const behind = $derived(
    copies.filter(isBehind).map(({ id, members }) => ({ id, names: members.map(nameOf) })),
  );
  const standing = $derived(assignment.changes.find(({ undone }) => !undone)?.id);
</script>

<div class="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
  <main class="min-w-0 flex-1 overflow-auto px-5 py-3 max-lg:overflow-visible">
    <div class="flex flex-wrap items-center gap-x-6 gap-y-1">
      <p class="text-lg font-bold">{data.klass.name} {data.klass.title}</p>
      <ClassViews klass={data.klass.id} leads={data.mayChange} archived={data.klass.archived} />
    </div>
    <div class="mt-4 flex flex-wrap items-center gap-3">
      <h1 class="min-w-60 flex-1 text-2xl font-bold">{spec.title}</h1>
      {#if spec.form !== 'done or not'}<a
          class="act act-main"
          href="/classes/{data.klass.id}/assignments/{assignment.id}/marking">Mark</a
        >{/if}
      {#if data.mayChange}
        {#if spec.form !== 'done or not'}<a
            class="act"
            href="/classes/{data.klass.id}/assignments/{assignment.id}/collecting"
            >Collect files …</a
          >{/if}
        <a class="act" href="/classes/{data.klass.id}/assignments/{assignment.id}/change"
          >Change …</a
        >
        {#if spec.marking !== 'by hand'}
          <CheckAgain
            at="/classes/{data.klass.id}/assignments/{assignment.id}/check-again"
            checked={(count) => (checked = count)}
          />
        {/if}
        <form method="POST" action="?/withdraw" use:enhance>
          <input type="hidden" name="withdrawn" value={String(!here?.withdrawn)} />
          <button class="act"
            >{here?.withdrawn ? 'Restore' : `Withdraw from ${data.klass.name}`}</button
          >
        </form>
      {/if}
    </div>
    {#if spec.form !== 'done or not'}
      {@const at = `/classes/${data.klass.id}/assignments/${assignment.id}`}
      <nav class="-ml-2 flex flex-wrap" aria-label="Views of the assignment">
        <a class="act act-small act-plain px-2" href="{at}/parts">Parts</a>
        <a class="act act-small act-plain px-2" href="{at}/glance">At a glance</a>
        {#if data.mayMark}<a class="act act-small act-plain px-2" href="{at}/markers">Markers</a
          >{/if}
        {#if data.mayMark && data.ownScoring !== null}<a
            class="act act-small act-plain px-2"
            href="{at}/classmates">Classmates’ scoring</a
          >{/if}
        <a class="act act-small act-plain px-2" href="{at}/alike">Shared passages</a>
      </nav>
    {/if}
    <p class="text-ink2">
      {spec.form === 'done or not'
        ? 'done or not, without a page'
        : assignment.pages
            .map(({ title, delivery }) =>
              assignment.pages.length > 1 ? `${title} (${delivery})` : delivery,
            )
            .join(', ')} · {spec.points === null
        ? 'no points'
        : `${writePoints(spec.points)} points`}{spec.marking === 'by hand'
        ? ''
        : ' · marks itself'}{spec.category ? ` · ${spec.category}` : ''} · handed out by {assignment.by}{here
        ? `, ${when(here.handedOut, data.now, zone)}`
        : ''}
    </p>
    {#if data.mayChange && data.ownScoring !== null}<div class="mt-2 text-sm">
        <OnOff
          says="Students score themselves by the rubric first"
          bind:on={() => data.ownScoring ?? false, (asked) => void askOwnScoring(asked)}
        />
      </div>{/if}
    {#if trouble || form?.sentence}<p class="trouble mt-3" role="alert">
        {trouble || form?.sentence}
      </p>{/if}
    {#if checked !== null}<p class="notice mt-3" role="status">
        {checked === 0
          ? 'Checked by the answer keys as they are now: nothing came to something else.'
          : `${counted(checked, 'copy came', 'copies came')} to something else by the answer keys as they are now.`}
      </p>{/if}
    {#if data.mayMark}<BehindNotice copies={behind} changed={() => readAgain('uncia:board')} />{/if}
    {#if here?.withdrawn}<p class="notice mt-3">
        Withdrawn from {data.klass.name}: its students do not see it. Nothing in it is lost.
      </p>{/if}
    {#if spec.instructions}<p
        class="mt-3 max-w-3xl border-l-3 border-rule pl-3 whitespace-pre-line"
      >
        {spec.instructions}
      </p>{/if}
    <ul class="mt-4 max-w-4xl">
      {#each receivers as row (row.id)}
        <li class="flex flex-wrap items-center gap-x-4 border-b border-rule py-1.5">
          <span class="w-52 truncate">{row.name}</span>
          <span class="flex min-w-0 flex-1 flex-wrap gap-x-4">
            {#each row.copies as copy (copy.id)}
              <a
                class="inline-flex items-center gap-2 text-ink no-underline hover:text-spruce"
                href={copy.delivery === 'to read'
                  ? undefined
                  : `/classes/${data.klass.id}/marking/${copy.id}`}
              >
                <Rosette
                  mask={copy.mask}
                  state={copy.state}
                  flags={copy.flags}
                  points={copy.points}
                  size={24}
                />
                <span class="text-sm"
                  >{copy.says}{copy.own.handedIn
                    ? `, ${when(copy.own.handedIn, clock.now, zone)}`
                    : ''}</span
                >
              </a>
            {:else}<span class="text-sm text-ink2"
                >{row.missing ? 'no copy yet' : 'has nothing of it'}</span
              >{/each}
          </span>
          {#if row.allowed}<span class="text-sm text-plum"
              >{row.allowed.kind === 'excused'
                ? 'excused'
                : `until ${row.allowed.due === null ? '' : when(row.allowed.due, data.now, zone)}`}{row
                .allowed.note
                ? `: ${row.allowed.note}`
                : ''}</span
            >{/if}
          {#if data.mayChange && row.copies.some(asksForWork)}
            <Menu label="More about {row.name}">
              {#snippet button()}<Ellipsis size={18} aria-hidden="true" />{/snippet}
              <button onclick={() => (longer = row.id)}>Extension …</button>
              {#if row.allowed?.kind !== 'excused'}<FormButton
                  label="Excuse"
                  action="allow"
                  fields={{ student: row.id, kind: 'excused' }}
                />{/if}
              <button onclick={() => remove(row)}
                >{row.copies.length === 1 ? 'Remove copy' : 'Remove copies'}</button
              >
              {#if row.allowed}<FormButton
                  label="Remove exception"
                  action="allow"
                  fields={{ student: row.id, kind: 'as for all' }}
                />{/if}
            </Menu>
          {/if}
          {#if longer === row.id}
            <form
              method="POST"
              action="?/allow"
              class="flex w-full flex-wrap items-end gap-2 py-2 pl-52"
              use:enhance={() =>
                async ({ update, result }) => {
                  await update();
                  if (result.type === 'success') longer = null;
                }}
            >
              <input type="hidden" name="student" value={row.id} />
              <input type="hidden" name="kind" value="extension" />
              <div class="w-72">
                <MomentField label="Until" name="due" required timeZone={zone} />
              </div>
              <label class="flex-1"
                ><span class="label">Reason, for staff</span><input
                  class="field"
                  name="note"
                  maxlength="500"
                /></label
              >
              <button class="act">Save</button>
              <button type="button" class="act act-plain" onclick={() => (longer = null)}
                >Cancel</button
              >
            </form>
          {/if}
        </li>
      {:else}<li class="py-2 text-ink2">Nobody in {data.klass.name} gets it.</li>{/each}
    </ul>
    {#if others.length > 0}
      <p class="mt-3 max-w-4xl text-sm text-ink2">
        {others.length === 1 ? 'One other' : `${others.length} others`} in {data.klass.name}
        {others.length === 1 ? 'gets' : 'get'} nothing of it: {listed(
          others.map(({ given, family }) => `${given} ${family}`),
        )}.
      </p>
    {/if}
    {#if assignment.missing.length > 0 && data.mayChange}
      <form
        method="POST"
        action="?/give"
        use:enhance
        class="notice mt-4 flex max-w-4xl flex-wrap items-center gap-3"
      >
        <input type="hidden" name="students" value={assignment.missing.join(' ')} />
        <p class="flex-1">
          {assignment.missing.length === 1
            ? '1 student has'
            : `${assignment.missing.length} students have`} no copy of this yet.
        </p>
        <button class="act act-main">Give {assignment.missing.length === 1 ? 'it' : 'them'}</button>
      </form>
    {/if}
  </main>
  <aside
    class="w-[26rem] shrink-0 overflow-auto border-l border-rule bg-sheet px-5 py-4 max-lg:w-full max-lg:border-t max-lg:border-l-0"
    aria-label="About the assignment"
  >
    <h2 class="font-bold">Where, and when it is due</h2>
    <ul class="mt-1">
      {#each assignment.classes as one (one.id)}
        <li class="flex gap-3 border-b border-rule py-1.5 text-sm">
          <a class="w-12 font-bold text-ink" href="/classes/{one.id}/assignments/{assignment.id}"
            >{one.name}</a
          >
          <span class="flex-1"
            >{one.withdrawn
              ? 'withdrawn'
              : one.due === null
                ? 'no due time'
                : `${when(one.due, data.now, zone)}, ${away(one.due, clock.now)}`}</span
          >
        </li>
      {/each}
    </ul>
    {#if data.mayChange}<p class="mt-2">
        <a
          class="act act-small act-plain"
          href="/classes/{data.klass.id}/assignments/{assignment.id}/change"
          >To another class, or to others …</a
        >
      </p>{/if}
    {#if data.mayChange && assignment.outdated.length > 0}
      <Corrections
        timeZone={zone}
        klass={data.klass.id}
        assignment={assignment.id}
        outdated={assignment.outdated}
      />
    {/if}
    <AsReally klass={data.klass.id} assignment={assignment.id} students={assignment.students} />
    {#if assignment.kept > 0}<p class="mt-5 text-sm text-ink2">
        {assignment.kept === 1 ? '1 earlier page is' : `${assignment.kept} earlier pages are`} kept.
      </p>{/if}
    {#if assignment.changes.length > 0}
      <h2 class="mt-5 font-bold">What changed</h2>
      <ul>
        {#each assignment.changes as change (change.id)}
          <li class={['border-b border-rule py-2 text-sm', change.undone && 'text-ink2']}>
            <div class="flex items-baseline gap-3">
              <span class="flex-1 text-ink2"
                >{when(change.at, data.now, zone)}, {change.by}{change.undone
                  ? ', undone'
                  : ''}</span
              >
              {#if data.mayChange && change.id === standing}
                <form method="POST" action="?/undo" use:enhance>
                  <input type="hidden" name="change" value={change.id} />
                  <button class="act act-small">Undo</button>
                </form>
              {/if}
            </div>
            <p>{change.facts.map((fact) => sayChangeFact(fact, zone)).join(' ')}</p>
          </li>
        {/each}
      </ul>
    {/if}
  </aside>
</div>
