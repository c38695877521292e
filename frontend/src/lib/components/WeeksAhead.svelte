<script lang="ts">
  import { ask, reads } from '../state/reads.svelte';
  import { dateInWords, isoOf, phaseInWords, shortDate, weeksUntil, type Week } from '../view/weeks';
  import { loadMinutes } from '../view/words';

  /** The weeks until a date that counts: a bar for the load of each, less before a performance and after it. */
  type Props = { playerId: string; today: number; until: string; what: string };
  let { playerId, today, until, what }: Props = $props();
  const count = $derived(weeksUntil(today, until));
  const shown = reads(() => ask('weeks', playerId, { since: isoOf(today), count }));
  const weeks = $derived<readonly Week[]>(shown.value?.weeks ?? []);
  const top = $derived(Math.max(1, ...weeks.map((week) => week.target)));
</script>

{#if weeks.length > 1}
  <section class="mt-8" aria-label="Weeks until {dateInWords(until)}">
    <h2>{count - 1} weeks until the {what} on {dateInWords(until)}</h2>
    <ol class="weeks mt-3">
      {#each weeks as week (week.start)}
        <li
          class={week.phase === 'usual' ? '' : week.phase === 'performance' ? 'performance' : 'less'}
          title="Week of {shortDate(week.start)}: {loadMinutes(week.target)} min of load{phaseInWords(week)}"
        >
          <span class="bar" style="height: {(100 * week.target) / top}%"></span>
          <span class="sr-only"
            >Week of {shortDate(week.start)}: {loadMinutes(week.target)} min of load{phaseInWords(week)}</span
          >
        </li>
      {/each}
    </ol>
    <p class="quiet flex justify-between gap-4 text-sm">
      <span>{shortDate(weeks[0]?.start ?? today)}, {loadMinutes(weeks[0]?.target ?? 0)} min a week</span>
      {#if weeks.some((week) => week.phase !== 'usual')}<span>lighter: hatched; performance: full</span>{/if}
      <span>{shortDate(weeks.at(-1)?.start ?? today)}</span>
    </p>
  </section>
{/if}

<style>
  .weeks {
    display: flex;
    align-items: flex-end;
    gap: 3px;
    height: 96px;
    border-bottom: 1.5px solid var(--ink);
  }

  .weeks li {
    flex: 1 1 0;
    height: 100%;
    display: flex;
    align-items: flex-end;
  }

  .bar {
    width: 100%;
    border: 1.5px solid var(--ink-soft);
    border-bottom: 0;
    background: var(--rule);
  }

  .less .bar {
    background: repeating-linear-gradient(135deg, var(--rule) 0 4px, transparent 4px 8px);
  }

  .performance .bar {
    background: var(--brass);
    border-color: var(--brass);
  }
</style>
