<script lang="ts">
  import {
    bandOf,
    dotsOf,
    lineOf,
    numberOf,
    pointInWords,
    scaleOf,
    titleOf,
    type Step,
    type TrendShown,
  } from '../view/trends';
  import { shortDate } from '../view/weeks';
  import { sentence } from '../view/words';
  import Chart from './Chart.svelte';
  import { stepsInWords, stepsToGo } from '../view/trends';

  /** One measure over days or weeks: the median as a line, the middle half of the takes as a band. */
  let { shown, unit }: { shown: TrendShown; unit: Step } = $props();
  const [HEIGHT, LEFT] = [120, 44];
  const points = $derived(shown.trend.points);
  const missing = $derived(shown.trend.missing);
  const scale = $derived(scaleOf(shown));
  let width = $state(0);
  const dots = $derived(dotsOf(shown, { width, height: HEIGHT, left: LEFT }));
  const ends = $derived([
    ...new Set([points[0], points.at(-1)].flatMap((point) => (point ? [shortDate(point.day)] : []))),
  ]);
</script>

<figure class="trend">
  <figcaption>
    <b>{titleOf(shown)}</b> <span class="quiet">{shown.measure.unit}</span><br />
    <span class="quiet">
      {#if shown.says}{sentence(shown.says.slice(shown.says.lastIndexOf(': ') + 2))}
      {:else if missing}Not enough data yet: {stepsToGo(missing, unit)} to go.
      {:else}No clear change.{/if}
    </span>
  </figcaption>
  <Chart
    name="{titleOf(shown)}: {stepsInWords(points.length, unit)}. {shown.says ?? ''}"
    {points}
    bind:width
    middles={dots.map((dot) => dot.x)}
    wordsOf={(point) => pointInWords(point, shown.measure.unit, unit)}
    height={HEIGHT}
    left={LEFT}
    below={ends}
    head={[unit === 'week' ? 'Week of' : 'Day', 'Median', 'Middle half', 'Takes']}
    rowOf={(point) => [
      shortDate(point.day),
      numberOf(point.middle),
      `${numberOf(point.low)} to ${numberOf(point.high)}`,
      point.takes,
    ]}
  >
    {#snippet picture(at)}
      <text x={LEFT - 6} y="14" text-anchor="end">{numberOf(scale[1])}</text>
      <text x={LEFT - 6} y={HEIGHT - 4} text-anchor="end">{numberOf(scale[0])}</text>
      <line x1={LEFT} x2={width} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} stroke="var(--ink)" />
      <path d={bandOf(dots, missing)} fill="var(--brass)" opacity="0.22" />
      <path d={lineOf(dots, missing)} fill="none" stroke="var(--brass)" stroke-width="2" />
      {#each dots as dot, i (dot.point.day)}
        <circle cx={dot.x} cy={dot.y} r={i === at ? 5 : dots.length > 40 ? 1.5 : 3} fill="var(--brass)" />
      {/each}
    {/snippet}
  </Chart>
</figure>

<style>
  .trend {
    min-width: 0;
  }
</style>
