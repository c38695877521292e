<script lang="ts">
  import { loadMinutes } from '../view/numbers';
  import { dateOf, isoOf, playedOf, shortDate, weekday, type PlannedDay, type Week } from '../view/weeks';
  import { named } from '../view/names';
  import { tag } from '../../locales/locale.js';

  /** A month of days: minutes and kind, what was played, performances and goals on their dates; the load of each week as a bar. */
  type Props = {
    weeks: readonly Week[];
    month: number;
    today: number;
    chosen: number | null;
    /** What is on a date, by ISO date. */
    marks: Readonly<Record<string, string>>;
    choose: (day: number) => void;
    move: (from: PlannedDay, to: PlannedDay) => void;
  };
  let { weeks, month, today, chosen, marks, choose, move }: Props = $props();
  let dragged: { day: PlannedDay; week: Week } | null = null;
  let over = $state<number | null>(null);
  /** A week that began on a Monday names the days. */
  const names = [1, 2, 3, 4, 5, 6, 7].map((day) =>
    new Date(2024, 0, day).toLocaleDateString(tag, { weekday: 'short' }),
  );
  const top = $derived(Math.max(1, ...weeks.flatMap((week) => week.days.map((day) => day.played ?? 0))));
  const minutesOf = loadMinutes;
  const free = (week: Week, day: PlannedDay) =>
    dragged?.week === week && day.day >= today && day.day !== dragged.day.day;
  function said(day: PlannedDay): string {
    const what =
      day.played != null ? `load ${minutesOf(day.played)} min played` : `${named(day.kind)}, ${day.minutes} min`;
    return [`${weekday(day.day)} ${shortDate(day.day)}: ${what}`, marks[isoOf(day.day)]].filter(Boolean).join(', ');
  }
</script>

<table class="month">
  <caption class="sr-only">Days with minutes and kind</caption>
  <thead>
    <tr>
      {#each names as name (name)}<th scope="col">{name}</th>{/each}
      <th scope="col" class="load">Load, min</th>
    </tr>
  </thead>
  <tbody>
    {#each weeks as week (week.start)}
      {@const played = playedOf(week)}
      {@const scale = Math.max(week.bound, played, 1)}
      <tr>
        {#each week.days as day (day.day)}
          <td class:today={day.day === today} class:outside={dateOf(day.day).getUTCMonth() !== month}>
            <button
              class="day"
              class:over={over === day.day}
              aria-pressed={chosen === day.day}
              aria-label={said(day)}
              draggable={day.day >= today && day.minutes > 0}
              ondragstart={() => (dragged = { day, week })}
              ondragover={(event) => {
                if (!free(week, day)) return;
                event.preventDefault();
                over = day.day;
              }}
              ondragleave={() => (over = null)}
              ondrop={(event) => {
                event.preventDefault();
                if (dragged && free(week, day)) move(dragged.day, day);
                over = null;
              }}
              ondragend={() => ([dragged, over] = [null, null])}
              onclick={() => choose(day.day)}
            >
              <span class="date">{dateOf(day.day).getUTCDate()}</span>
              {#if day.played}<span class="played" style="width: {Math.max(6, (100 * day.played) / top)}%"></span>
              {:else if day.day >= today && day.target}
                <span class="planned {day.kind}">{day.minutes} min</span>
                <span class="kind">{named(day.kind)}</span>
              {/if}
              {#if marks[isoOf(day.day)]}<span class="mark">{marks[isoOf(day.day)]}</span>{/if}
            </button>
          </td>
        {/each}
        <td class="load">
          <div
            class="bar"
            role="img"
            aria-label="Load {minutesOf(played)} of {minutesOf(week.bound)} min"
            title={week.why}
          >
            <span class="ahead" style="width: {(100 * week.target) / scale}%"></span>
            <span class="done" style="width: {(100 * played) / scale}%"></span>
          </div>
          <span class="quiet">{minutesOf(played)} of {minutesOf(week.bound)}</span>
        </td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .month {
    width: 100%;
    border-collapse: collapse;
    table-layout: fixed;
    margin-top: 1rem;
  }

  th {
    padding: 0.25rem;
    text-align: left;
    font-weight: 400;
    color: var(--ink-soft);
  }

  .load {
    width: 9rem;
    padding: 0.4rem 0 0.4rem 1rem;
    vertical-align: middle;
  }

  td {
    border: 1px solid var(--rule);
    padding: 0;
    height: 76px;
  }

  td.load {
    border: 0;
    height: auto;
    font-size: 0.9rem;
  }

  td.today {
    border: 2px solid var(--ink);
  }

  .outside .day {
    color: var(--ink-soft);
  }

  .day {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    width: 100%;
    height: 100%;
    min-height: 72px;
    padding: 0.3rem 0.4rem;
    font-size: 0.9rem;
    line-height: 1.25;
    text-align: left;
    cursor: pointer;
    overflow: hidden;
  }

  .day[aria-pressed='true'] {
    background: var(--paper-deep);
    box-shadow: inset 0 -3px 0 var(--ink);
  }

  .day.over {
    box-shadow: inset 0 0 0 2px var(--ink);
  }

  .date {
    color: var(--ink-soft);
  }

  .today .date {
    font-weight: 700;
    color: var(--ink);
  }

  .planned.heavy {
    font-weight: 650;
  }

  .kind {
    color: var(--ink-soft);
    font-size: 0.8rem;
  }

  .played {
    height: 10px;
    margin-top: 0.35rem;
    background: var(--brass);
  }

  .mark {
    margin-top: auto;
    padding: 0 0.25rem;
    background: var(--ink);
    color: var(--paper);
    font-size: 0.75rem;
    max-width: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  .bar {
    position: relative;
    height: 12px;
    border: 1px solid var(--ink);
    border-top: 0;
  }

  .bar span {
    position: absolute;
    left: 0;
    bottom: 0;
  }

  .ahead {
    height: 8px;
    background: var(--asked);
  }

  .done {
    height: 8px;
    background: var(--brass);
  }

  @media (max-width: 48rem) {
    th.load,
    td.load {
      display: none;
    }

    td {
      height: 58px;
    }

    .day {
      min-height: 56px;
      padding: 0.2rem;
      font-size: 0.8rem;
    }

    .kind {
      display: none;
    }

    .mark {
      font-size: 0.6rem;
    }
  }
</style>
