<script lang="ts">
  import type { CountedWork, GradeLine } from '$core/grades/grade-line';
  import type { GradeRules } from '$core/grades/rules';
  import { sayCategorySum, sayTotal } from '$core/grades/say-grades';
  import { writePoints } from '$core/marking/points';

  interface Props {
    line: GradeLine;
    rules: GradeRules;
    /** Where a piece of work is opened; null for nowhere. */
    linkOf?: (id: string) => string | null;
  }
  let { line, rules, linkOf = () => null }: Props = $props();
  const byWeights = $derived(rules.total === 'weights');

  function sayWork({ work, why }: CountedWork): string {
    const most = writePoints(work.most);
    const has = typeof work.got === 'object' ? `${writePoints(work.got.points)} of ${most}` : '';
    switch (why) {
      case 'counts':
        return has || `missing: 0 of ${most}`;
      case 'extra':
        return `${has}, extra`;
      case 'dropped':
        return `${has || `missing: 0 of ${most}`}, dropped as the lowest`;
      case 'does not count':
        return has ? `${has}, does not count` : 'does not count';
      case 'open':
        return 'no points yet';
      default:
        return why;
    }
  }
</script>

{#each line.categories as category (category.name)}
  <section class="mt-3">
    {#if line.categories.length > 1 || category.name}<h3 class="text-sm text-ink2">
        {category.name || 'In no category'}
        {#if byWeights}· {category.weight === null || !category.counts
            ? 'not in the total'
            : `counts ${writePoints(category.weight)} of ${writePoints(line.weights)}`}{/if}
      </h3>{/if}
    <ul>
      {#each category.work as one (one.work.id)}
        {@const to = linkOf(one.work.id)}
        <li class="flex items-baseline gap-3 py-0.5">
          <span class="min-w-0 flex-1"
            >{#if to}<a class="text-ink" href={to}>{one.work.title}</a>{:else}{one.work
                .title}{/if}</span
          >
          <span
            class={[
              'text-right',
              one.why === 'counts' || one.why === 'extra' ? 'font-bold' : 'text-ink2',
            ]}>{sayWork(one)}</span
          >
        </li>
      {/each}
    </ul>
    {#if rules.total !== 'none'}<p class="border-t border-rule py-0.5 text-right">
        {sayCategorySum(category, rules.places)}
      </p>{/if}
  </section>
{:else}<p class="mt-3 text-ink2">Nothing counts points yet.</p>{/each}
{#if rules.total !== 'none'}
  <p class="mt-3 flex items-baseline gap-3 border-t-2 border-ink pt-2">
    <strong class="flex-1">Together</strong>
    <span class="text-right font-bold">{sayTotal(rules, line) ?? 'nothing counts yet'}</span>
  </p>
  {#if line.grade}<p class="flex items-baseline gap-3">
      <span class="flex-1">By the school’s scale</span><strong>{line.grade}</strong>
    </p>{/if}
{/if}
