<script lang="ts">
  import CalendarDays from '@lucide/svelte/icons/calendar-days';
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { DatePicker, parseDate } from '@skeletonlabs/skeleton-svelte';
  import { dayOf } from '$core/calendar/local-time';
  import { readDay } from '$core/calendar/read-typed';
  import { sayDate } from '$core/calendar/say-time';
  import { LANGUAGE } from '$core/language';
  import { serverNow } from '../server-time';
  import { followReset, valid } from './form-field';

  interface Props {
    /** Of the text field; shown nowhere. */
    label: string;
    /** "2026-10-23", or empty. */
    value?: string;
    /** The name under which a form sends the day. */
    name?: string;
    required?: boolean;
    /** The clock that says which day today is. */
    timeZone: string;
  }
  let { label, value = $bindable(''), name, required = false, timeZone }: Props = $props();

  const FAULT = 'A day like 23/10/2026 or 23 Oct, please.';
  const initial = value;
  let isWrong = $state(false);
  let open = $state(false);
  const say = (day: string) => sayDate(day, { weekday: true, year: true });
  const today = () => dayOf(serverNow(), timeZone);

  function choose(day: string) {
    isWrong = false;
    if (day !== value) value = day;
  }
  /** What was typed is taken when the field is left, or the form sent. */
  function read(field: HTMLInputElement) {
    const typed = field.value.trim();
    const day = typed === '' ? '' : readDay(typed, today());
    if (day === null) isWrong = true;
    else choose(day);
    if (day) field.value = say(day);
  }
</script>

<DatePicker
  locale={LANGUAGE}
  {timeZone}
  value={value ? [parseDate(value)] : []}
  onValueChange={(change) => choose(change.value[0]?.toString() ?? '')}
  format={(day) => say(day.toString())}
  parse={(typed) => {
    const day = readDay(typed, today());
    return day ? parseDate(day) : undefined;
  }}
  fixedWeeks
  {open}
  onOpenChange={(change) => (open = change.open)}
  positioning={{ strategy: 'fixed', placement: 'bottom-start', gutter: 4 }}
>
  <DatePicker.Control class="relative">
    <DatePicker.Input fixOnBlur={false}>
      {#snippet element(attributes)}
        <input
          {...attributes}
          class="field pr-8 pl-2.5"
          aria-label={label}
          placeholder="day, month"
          {required}
          aria-invalid={isWrong}
          onbeforeinput={undefined}
          oninput={() => (isWrong = false)}
          onblur={(event) => read(event.currentTarget)}
          onkeydown={(event) => {
            if (event.key === 'Enter') read(event.currentTarget);
          }}
          {@attach valid(() => (isWrong ? FAULT : ''))}
        />
      {/snippet}
    </DatePicker.Input>
    <DatePicker.Trigger
      class="absolute inset-y-0 right-0 grid w-8 place-items-center rounded-r-lg text-ink2 hover:text-ink"
      ><CalendarDays size={16} aria-hidden="true" /></DatePicker.Trigger
    >
  </DatePicker.Control>
  {#if isWrong}<span class="mt-1 block text-sm text-rust" role="alert">{FAULT}</span>{/if}
  {#if name}<input type="hidden" {name} {value} {@attach followReset(() => choose(initial))} />{/if}
  {#if open}
    <DatePicker.Positioner>
      <DatePicker.Content
        class="z-50 rounded-lg border border-rule bg-sheet p-3 text-ink shadow-sm"
      >
        <DatePicker.View view="day">
          <DatePicker.Context>
            {#snippet children(calendar)}
              <DatePicker.ViewControl class="mb-1 flex items-center gap-1">
                <DatePicker.PrevTrigger class="act act-small act-plain"
                  ><ChevronLeft size={18} aria-hidden="true" /></DatePicker.PrevTrigger
                >
                <DatePicker.RangeText class="flex-1 text-center font-bold" />
                <DatePicker.NextTrigger class="act act-small act-plain"
                  ><ChevronRight size={18} aria-hidden="true" /></DatePicker.NextTrigger
                >
              </DatePicker.ViewControl>
              <DatePicker.Table>
                <DatePicker.TableHead>
                  <DatePicker.TableRow>
                    {#each calendar().weekDays as day (day.long)}
                      <DatePicker.TableHeader
                        class="h-8 w-9 text-center text-sm font-normal text-ink2"
                        aria-label={day.long}>{day.short}</DatePicker.TableHeader
                      >
                    {/each}
                  </DatePicker.TableRow>
                </DatePicker.TableHead>
                <DatePicker.TableBody>
                  {#each calendar().weeks as week (week[0]?.toString())}
                    <DatePicker.TableRow>
                      {#each week as day (day.toString())}
                        <DatePicker.TableCell value={day}>
                          <DatePicker.TableCellTrigger
                            class="grid h-9 w-9 cursor-pointer place-items-center rounded-md hover:bg-paper data-outside-range:text-ink2 data-selected:bg-ink data-selected:text-sheet data-today:font-bold data-today:underline"
                            >{day.day}</DatePicker.TableCellTrigger
                          >
                        </DatePicker.TableCell>
                      {/each}
                    </DatePicker.TableRow>
                  {/each}
                </DatePicker.TableBody>
              </DatePicker.Table>
            {/snippet}
          </DatePicker.Context>
        </DatePicker.View>
      </DatePicker.Content>
    </DatePicker.Positioner>
  {/if}
</DatePicker>
