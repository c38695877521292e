<script lang="ts">
  import { PLAYS_NOW } from '../lib/view/elsewhere';
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { api, type Schemas } from '../lib/api/client';
  import CalendarImport from '../lib/components/CalendarImport.svelte';
  import DayChange from '../lib/components/DayChange.svelte';
  import Goals from '../lib/components/Goals.svelte';
  import MonthGrid from '../lib/components/MonthGrid.svelte';
  import WeeksAhead from '../lib/components/WeeksAhead.svelte';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { isoOf, monthName, nextDate, weekday } from '../lib/view/weeks';

  const now = new Date();
  let year = $state(now.getFullYear());
  let month = $state(now.getMonth());
  const player = $derived(household.player);
  const first = $derived(`${year}-${String(month + 1).padStart(2, '0')}-01`);
  const shown = reads(() => player && ask('weeks', player.id, { since: first, count: 6 }));
  const goals = reads(() => player && ask('goals', player.id));
  const found = $derived(shown.value);
  let chosen = $state<number | null>(null);
  let said = $state<string | null>(null);

  const weeks = $derived(
    (found?.weeks ?? []).filter((week) => week.days.some((day) => isoOf(day.day).startsWith(first.slice(0, 7)))),
  );
  const at = $derived(chosen ?? found?.today ?? null);
  const week = $derived(found?.weeks.find((item) => at !== null && item.start <= at && at < item.start + 7) ?? null);
  const day = $derived(week?.days.find((item) => item.day === at) ?? null);
  /** What stands on a date: performances, and the goals that are due. */
  const marks = $derived({
    ...Object.fromEntries(
      (goals.value ?? []).filter((goal) => goal.state === 'on').map((goal) => [goal.date, 'Goal'] as const),
    ),
    ...Object.fromEntries((found?.performances ?? []).map((iso) => [iso, 'Performance'] as const)),
  });

  const towards = $derived(found && nextDate(found.performances, goals.value ?? [], found.today));

  function turn(by: number) {
    const date = new Date(year, month + by, 1);
    [year, month] = [date.getFullYear(), date.getMonth()];
  }
  async function change(settings: {
    minutes?: number[];
    performances?: string[];
    moved?: Record<string, number>;
    practice_at?: string | null;
    plays_now?: number | null;
    elsewhere?: Schemas['PlayedElsewhere'][];
  }) {
    if (!player) return;
    said = null;
    try {
      await api.changeSettings(player.id, settings);
      household.players = household.players.map((item) =>
        item.id === player.id ? { ...item, settings: { ...item.settings, ...settings } as typeof item.settings } : item,
      );
    } catch (error) {
      said = words(error);
    }
  }
  const setWeekday = (index: number, minutes: number) =>
    change({ minutes: (found?.minutes ?? []).map((own, i) => (i === index ? minutes : own)) });
  const setMinutes = (days: Record<string, number>) => void change({ moved: { ...found?.moved, ...days } });
  const setPerformance = (iso: string, on: boolean) =>
    void change({
      performances: [...(found?.performances ?? []).filter((item) => item !== iso), ...(on ? [iso] : [])],
    });
</script>

<svelte:head><title>Plan – Orexis</title></svelte:head>

{#if player && found}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <h1 class="grow">{monthName(year, month)}</h1>
      <button class="step" aria-label="Earlier month" onclick={() => turn(-1)}><ChevronLeft /></button>
      <button class="step" aria-label="Later month" onclick={() => turn(1)}><ChevronRight /></button>
      <label class="inline-flex items-center gap-3">
        <span class="quiet">Go to</span>
        <input
          class="named"
          type="month"
          value={first.slice(0, 7)}
          onchange={(event) => {
            const [y, m] = event.currentTarget.value.split('-').map(Number);
            if (y && m) [year, month] = [y, m - 1];
          }}
        />
      </label>
    </div>
    {#each [...found.warnings, said ?? shown.trouble].filter(Boolean) as line (line)}<p role="alert" class="mt-3">
        {line}
      </p>{/each}
    <MonthGrid
      {weeks}
      {month}
      {marks}
      today={found.today}
      chosen={at}
      choose={(item) => (chosen = item)}
      move={(from, to) => {
        setMinutes({ [isoOf(from.day)]: 0, [isoOf(to.day)]: from.minutes });
        chosen = to.day;
      }}
    />
    {#if day && week}
      <DayChange
        {day}
        {week}
        today={found.today}
        performances={found.performances}
        {setMinutes}
        {setPerformance}
        elsewhere={player.settings.elsewhere ?? []}
        setElsewhere={(elsewhere) => void change({ elsewhere })}
      />
    {/if}
    <details class="mt-5">
      <summary class="cursor-pointer py-2">Practice minutes by weekday</summary>
      <div class="mt-2 flex flex-wrap gap-4">
        {#each found.minutes as minutes, index (index)}
          <label class="grid gap-1">
            <span class="quiet text-sm">{weekday(1 + index)}</span>
            <input
              class="number"
              type="number"
              min="0"
              max="120"
              step="5"
              value={minutes}
              onchange={(event) => void setWeekday(index, Number(event.currentTarget.value))}
            />
          </label>
        {/each}
      </div>
      <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-2">
        <label class="flex items-center gap-3">
          <span class="quiet">You play now</span>
          <select
            class="plain"
            value={String(player.settings.plays_now ?? '')}
            onchange={(event) => void change({ plays_now: Number(event.currentTarget.value) || null })}
          >
            <option value="">as much as planned</option>
            {#each PLAYS_NOW as [minutes, label] (minutes)}<option value={String(minutes)}>{label}</option>{/each}
          </select>
        </label>
        <label class="flex items-center gap-3">
          <span class="quiet">Usual time (empty: none)</span>
          <input
            class="named"
            type="time"
            value={player.settings.practice_at ?? ''}
            onchange={(event) => void change({ practice_at: event.currentTarget.value || null })}
          />
        </label>
        <a class="line inline-block py-2" href={api.paperUrl(player.id, 'weeks.ics')} download>Export to a calendar</a>
        <CalendarImport
          playerId={player.id}
          performances={found.performances}
          elsewhere={player.settings.elsewhere ?? []}
          add={(performances, elsewhere) => change({ performances, elsewhere })}
        />
      </div>
    </details>
    {#if towards}<WeeksAhead playerId={player.id} today={found.today} {...towards} />{/if}
    <Goals playerId={player.id} goals={goals.value ?? []} />
  </section>
{:else if shown.trouble}
  <p role="alert" class="p-8">{shown.trouble}</p>
{:else}
  <p role="status" class="p-8">One moment …</p>
{/if}

<style>
  .step {
    display: inline-flex;
    align-items: center;
    justify-content: center;
    min-width: 48px;
    min-height: 48px;
    border: 1.5px solid var(--rule);
    cursor: pointer;
  }
</style>
