<script lang="ts">
  import { barsOf, csvOfDays, dayInWords, type Day } from '../view/days';
  import { saveText } from '../view/save';
  import { dayAndMonth } from '../view/range';

  /** Load by day with its heavy part, spent lips and reports under it. Arrow keys go from day to day; a table lies below. */
  let { days }: { days: readonly Day[] } = $props();
  let width = $state(0);
  let at = $state<number | null>(null);
  const [HEIGHT, UNDER] = [96, 30];
  const bars = $derived(barsOf(days, { width, height: HEIGHT, left: 44 }));
  const chosen = $derived(at === null ? null : (days[at] ?? null));
  const most = $derived(Math.max(1, ...days.map((day) => day.load)));

  function step(event: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -days.length, End: days.length }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    at = Math.min(days.length - 1, Math.max(0, (at ?? (by > 0 ? -1 : days.length)) + by));
  }
  function near(event: PointerEvent) {
    const x = event.clientX - (event.currentTarget as Element).getBoundingClientRect().left;
    at = bars.reduce((best, bar, i) => (Math.abs(bar.x - x) < Math.abs((bars[best]?.x ?? 1e9) - x) ? i : best), 0);
  }
</script>

{#if days.length}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="mt-3"
    bind:clientWidth={width}
    tabindex="0"
    role="img"
    aria-label="Load by day, {days.length} days. {chosen ? dayInWords(chosen, dayAndMonth(chosen.day)) : ''}"
    onkeydown={step}
    onpointermove={near}
    onpointerleave={() => (at = null)}
  >
    <svg {width} height={HEIGHT + UNDER}>
      <text x="38" y="12" text-anchor="end">{Math.round(most / 60)}</text>
      <text x="38" y={HEIGHT} text-anchor="end">0</text>
      {#each bars as bar, i (bar.day.day)}
        <rect
          x={bar.x}
          y={bar.y}
          width={bar.width}
          height={bar.height}
          fill="var(--brass)"
          opacity={i === at ? 1 : 0.45}
        />
        <rect x={bar.x} y={HEIGHT - bar.high} width={bar.width} height={bar.high} fill="var(--brass)" />
        {#if bar.day.spent}<text class="mark" x={bar.x + bar.width / 2} y={HEIGHT + 13} text-anchor="middle">s</text
          >{/if}
        {#if bar.day.report}<text class="hurt" x={bar.x + bar.width / 2} y={HEIGHT + 26} text-anchor="middle">r</text
          >{/if}
      {/each}
      <line x1="44" x2={width} y1={HEIGHT + 0.5} y2={HEIGHT + 0.5} stroke="var(--ink)" />
    </svg>
  </div>
  <p class="quiet min-h-6 text-sm" aria-live="polite">
    {#if chosen}{dayInWords(chosen, dayAndMonth(chosen.day))}{:else}
      Dark: heavy work. s: lips worn out. r: something hurt.{/if}
  </p>
  <details class="text-sm">
    <summary class="quiet cursor-pointer py-1">Table</summary>
    <p><button class="line py-2" onclick={() => saveText(csvOfDays(days), 'orexis-days.csv')}>Export as CSV</button></p>
    <table>
      <thead>
        <tr>
          {#each ['Day', 'Load, min', 'Heavy, min', 'Playing, min', 'Rest', 'Worn out', 'Reported'] as name (name)}<th
              scope="col">{name}</th
            >{/each}
        </tr>
      </thead>
      <tbody>
        {#each days as day (day.day)}
          <tr>
            <th scope="row">{dayAndMonth(day.day)}</th>
            <td>{Math.round(day.load / 60)}</td>
            <td>{Math.round(day.high_load / 60)}</td>
            <td>{day.playing_min.toFixed(1)}</td>
            <td>{day.rest_share == null ? '' : `${Math.round(100 * day.rest_share)}%`}</td>
            <td>{day.spent ? 'yes' : ''}</td>
            <td>{day.report ?? ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
{/if}

<style>
  text {
    fill: var(--ink-soft);
    font-size: 0.8rem;
  }

  .mark {
    fill: var(--ink);
    font-weight: 600;
  }

  .hurt {
    fill: var(--oxblood);
    font-weight: 600;
  }

  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 0.15rem 1.2rem 0.15rem 0;
    border-bottom: 1px solid var(--rule);
  }
</style>
