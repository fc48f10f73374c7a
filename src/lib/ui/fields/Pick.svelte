<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import { Combobox, useListCollection } from '@skeletonlabs/skeleton-svelte';
  import { followReset } from './form-field';

  interface Option {
    value: string;
    label: string;
    /** The heading that it stands under. */
    group?: string;
  }
  interface Props {
    /** Shown above the field, or heard alone. */
    label: string;
    quiet?: boolean;
    /** Many: some letters of one find it. */
    options: readonly Option[];
    value?: string;
    name?: string;
    required?: boolean;
    placeholder?: string;
    /** What is typed may be none of them. */
    free?: boolean;
    onchange?: (value: string) => void;
    /** Is empty again once something was chosen. */
    once?: boolean;
  }
  let {
    label,
    quiet = false,
    options,
    value = $bindable(''),
    name,
    required = false,
    placeholder = 'choose, or type',
    free = false,
    onchange,
    once = false,
  }: Props = $props();

  const initial = value;
  let open = $state(false);
  let typed = $state<string | null>(null);
  const plain = (text: string) =>
    text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/[_/]/g, ' ');
  const collection = $derived(
    useListCollection({
      items: typed
        ? options.filter((one) => plain(one.label).includes(plain(typed ?? '')))
        : options,
      itemToValue: (one) => one.value,
      itemToString: (one) => one.label,
      groupBy: (one) => one.group ?? '',
    }),
  );
  const shown = $derived(options.find((one) => one.value === value)?.label ?? (free ? value : ''));

  function choose(chosen: string) {
    typed = null;
    if (chosen === value) return;
    value = once ? '' : chosen;
    onchange?.(chosen);
  }
</script>

<Combobox
  {collection}
  {placeholder}
  {required}
  value={value && options.some((one) => one.value === value) ? [value] : []}
  inputValue={typed ?? shown}
  allowCustomValue={free}
  selectionBehavior={once ? 'clear' : 'replace'}
  inputBehavior="autohighlight"
  openOnClick
  onInputValueChange={({ inputValue, reason }) => {
    if (reason !== 'input-change') return;
    if (free) choose(inputValue);
    typed = inputValue;
  }}
  onValueChange={(change) => {
    const [chosen] = change.value;
    if (chosen !== undefined) choose(chosen);
  }}
  {open}
  onOpenChange={(change) => {
    open = change.open;
    if (!open) typed = null;
  }}
  positioning={{ strategy: 'fixed', placement: 'bottom-start', gutter: 4, sameWidth: true }}
>
  <Combobox.Label class={quiet ? 'sr-only' : 'label'}>{label}</Combobox.Label>
  <Combobox.Control class="relative">
    <Combobox.Input class="field pr-9" maxlength={100} />
    <Combobox.Trigger
      class="absolute inset-y-0 right-0 grid w-9 place-items-center text-ink2"
      tabindex={-1}
      aria-label="Show all"><ChevronDown size={18} aria-hidden="true" /></Combobox.Trigger
    >
  </Combobox.Control>
  {#if name}<input type="hidden" {name} {value} {@attach followReset(() => choose(initial))} />{/if}
  {#if open && !(free && collection.size === 0)}
    <Combobox.Positioner>
      <Combobox.Content
        class="z-50 max-h-72 min-w-52 overflow-auto rounded-lg border border-rule bg-sheet p-1.5 text-ink shadow-sm"
      >
        {#each collection.group() as [group, items] (group)}
          <Combobox.ItemGroup>
            {#if group}<Combobox.ItemGroupLabel class="px-3 pt-1.5 text-sm text-ink2"
                >{group}</Combobox.ItemGroupLabel
              >{/if}
            {#each items as item (item.value)}
              <Combobox.Item
                {item}
                class="cursor-pointer rounded-md px-3 py-1.5 data-highlighted:bg-ice-pale data-[state=checked]:font-bold"
                ><Combobox.ItemText>{item.label}</Combobox.ItemText></Combobox.Item
              >
            {/each}
          </Combobox.ItemGroup>
        {:else}<p class="px-3 py-1.5 text-ink2">None of that name.</p>{/each}
      </Combobox.Content>
    </Combobox.Positioner>
  {/if}
</Combobox>
