<script lang="ts">
  import { holiday, isoOf, shortDate, weekday, type PlannedDay, type Week } from '../view/weeks';
  import { loadInWords, sentence } from '../view/words';
  import type { Schemas } from '../api/client';
  import ElsewhereOnDay from './ElsewhereOnDay.svelte';
  import Toggle from './Toggle.svelte';
  import { named } from '../view/names';

  /** One day: how long, whether there is a performance, and to which day it moves. */
  type Props = {
    day: PlannedDay;
    week: Week;
    today: number;
    performances: readonly string[];
    setMinutes: (days: Record<string, number>) => void;
    setPerformance: (iso: string, on: boolean) => void;
    elsewhere: readonly Schemas['PlayedElsewhere'][];
    setElsewhere: (entries: Schemas['PlayedElsewhere'][]) => void;
  };
  let { day, week, today, performances, setMinutes, setPerformance, elsewhere, setElsewhere }: Props = $props();
  const iso = $derived(isoOf(day.day));
  const over = $derived(day.day < today);
  const free = $derived(week.days.filter((other) => other.day !== day.day && other.day >= today));
  const about = $derived(
    over
      ? day.played
        ? sentence(loadInWords(day.played))
        : 'No practice.'
      : sentence(
          `${day.kind === 'off' ? 'Day off' : `${named(day.kind)} day`}: ${day.why}${day.target ? `, ${loadInWords(day.target)}` : ''}`,
        ),
  );
</script>

<section
  class="rule mt-4 flex flex-wrap items-center gap-x-8 gap-y-2 border-b pb-3"
  aria-label="{weekday(day.day)} {shortDate(day.day)}"
>
  <div class="grow">
    <h2>{weekday(day.day)}, {shortDate(day.day)}</h2>
    <p class="quiet">{about}</p>
  </div>
  {#if !over}
    <label class="flex items-center gap-3">
      <span class="quiet">Minutes</span>
      <input
        class="number"
        type="number"
        min="0"
        max="120"
        step="5"
        value={day.minutes}
        onchange={(event) => setMinutes({ [iso]: Number(event.currentTarget.value) })}
      />
    </label>
    {#if day.minutes && free.length}
      <label class="flex items-center gap-3">
        <span class="quiet">Move to</span>
        <select
          class="plain"
          value=""
          onchange={(event) => setMinutes({ [iso]: 0, [event.currentTarget.value]: day.minutes })}
        >
          <option value="" disabled>choose</option>
          {#each free as other (other.day)}<option value={isoOf(other.day)}>{weekday(other.day)}</option>{/each}
        </select>
      </label>
    {/if}
    <label class="flex items-center gap-3">
      <span class="quiet">No practice until</span>
      <input
        class="named"
        type="date"
        min={iso}
        onchange={(event) => {
          setMinutes(holiday(iso, event.currentTarget.value));
          event.currentTarget.value = '';
        }}
      />
    </label>
    <Toggle label="Performance" checked={performances.includes(iso)} set={(on) => setPerformance(iso, on)} />
  {/if}
  <ElsewhereOnDay {iso} all={elsewhere} set={setElsewhere} />
</section>
