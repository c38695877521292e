<script lang="ts">
  import { barsOf, csvOfDays, dayInWords, type Day } from '../view/days';
  import { named } from '../view/names';
  import { decimals, loadMinutes, percent } from '../view/numbers';
  import { dayAndMonth } from '../view/range';
  import { saveText } from '../view/save';
  import Chart from './Chart.svelte';

  /** Load by day with its heavy part, worn out lips and reports under it. */
  let { days }: { days: readonly Day[] } = $props();
  const [HEIGHT, UNDER, LEFT] = [96, 30, 44];
  const most = $derived(Math.max(1, ...days.map((day) => day.load)));
  let width = $state(0);
  const bars = $derived(barsOf(days, { width, height: HEIGHT, left: LEFT }));
</script>

{#if days.length}
  <p class="mt-3"><b>Load by day</b> <span class="quiet">min</span></p>
  <Chart
    name="Load by day, {days.length} days"
    points={days}
    bind:width
    middles={bars.map((bar) => bar.x + bar.width / 2)}
    wordsOf={(day) => dayInWords(day, dayAndMonth(day.day))}
    height={HEIGHT + UNDER}
    left={0}
    below={['Dark: heavy work. s: lips worn out. r: something hurt.']}
    head={['Day', 'Load, min', 'Heavy, min', 'Playing, min', 'Rest', 'Worn out', 'Reported']}
    rowOf={(day) => [
      dayAndMonth(day.day),
      loadMinutes(day.load),
      loadMinutes(day.high_load),
      decimals(day.playing_min, 1),
      percent(day.rest_share),
      day.spent ? 'yes' : '',
      named(day.report ?? ''),
    ]}
    exportTable={() => saveText(csvOfDays(days), 'orexis-days.csv')}
  >
    {#snippet picture(at)}
      <text x={LEFT - 6} y="12" text-anchor="end">{loadMinutes(most)}</text>
      <text x={LEFT - 6} y={HEIGHT} text-anchor="end">0</text>
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
      <line x1={LEFT} x2={width} y1={HEIGHT + 0.5} y2={HEIGHT + 0.5} stroke="var(--ink)" />
    {/snippet}
  </Chart>
{/if}

<style>
  text.mark {
    fill: var(--ink);
    font-weight: 600;
  }

  text.hurt {
    fill: var(--oxblood);
    font-weight: 600;
  }
</style>
