<script lang="ts">
  import { isoOf, shortDate, weekday, type PlannedDay, type Week } from '../view/weeks';
  import Toggle from './Toggle.svelte';

  /** One day of the weeks: how long there is on it, whether there is a performance, and to which day it moves. */
  type Props = {
    day: PlannedDay;
    week: Week;
    today: number;
    performances: readonly string[];
    setMinutes: (days: Record<string, number>) => void;
    setPerformance: (iso: string, on: boolean) => void;
  };
  let { day, week, today, performances, setMinutes, setPerformance }: Props = $props();
  const iso = $derived(isoOf(day.day));
  const over = $derived(day.day < today);
  const free = $derived(week.days.filter((other) => other.day !== day.day && other.day >= today));
</script>

<section class="rule mt-4 border-b pb-4" aria-label="{weekday(day.day)} {shortDate(day.day)}">
  <h2>{weekday(day.day)}, {shortDate(day.day)}</h2>
  <p class="quiet">
    {#if over}{day.played ? `A load of ${Math.round(day.played)} was played.` : 'Nothing was played.'}
    {:else}{day.kind === 'off' ? 'Off' : `A ${day.kind} day`}: {day.why}{day.target
        ? `. It may bring a load of ${Math.round(day.target)}`
        : ''}.{/if}
  </p>
  {#if !over}
    <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
      <label class="flex items-center gap-3">
        <span class="quiet">Minutes on this day</span>
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
          <span class="quiet">Move it to</span>
          <select
            class="plain"
            value=""
            onchange={(event) => setMinutes({ [iso]: 0, [event.currentTarget.value]: day.minutes })}
          >
            <option value="" disabled>another day</option>
            {#each free as other (other.day)}<option value={isoOf(other.day)}>{weekday(other.day)}</option>{/each}
          </select>
        </label>
      {/if}
      <Toggle label="a performance" checked={performances.includes(iso)} set={(on) => setPerformance(iso, on)} />
    </div>
  {/if}
</section>
