<script lang="ts">
  import type { RangeSummary } from '../api/client';
  import { bothWays, dayAndMonth, rangeBars, rangeInWords, type RangeBar } from '../view/range';
  import Chart from './Chart.svelte';

  /** The range over time: a bar from the lowest note to the highest, inside it in ink what goes in slurs and scales, the
   *  comfortable middle as a rule. */
  type Props = { ladder: RangeSummary; nameOf: (midi: number | null | undefined) => string; bare?: boolean };
  let { ladder, nameOf, bare = false }: Props = $props();
  const [HEIGHT, LEFT] = [150, 64];
  let width = $state(0);
  const shown = $derived(rangeBars(ladder.history, ladder.middle, { width, height: HEIGHT, left: LEFT }));
  const span = (part: { low: number; high: number } | null) =>
    part ? `${nameOf(part.low)} to ${nameOf(part.high)}` : 'none yet';
  const inWords = (bar: RangeBar) => `${dayAndMonth(bar.day)}: ${span(bar)}, in slurs and scales ${span(bar.line)}`;
</script>

{#if shown.bars.length > 1}
  {#if !bare}
    <p class="quiet mt-2">
      {rangeInWords(ladder.history, nameOf)}
      {bothWays(ladder.history.at(-1), nameOf)}
    </p>
  {/if}
  <Chart
    name={rangeInWords(ladder.history, nameOf)}
    points={shown.bars}
    bind:width
    middles={shown.bars.map((bar) => bar.x + bar.width / 2)}
    wordsOf={inWords}
    height={HEIGHT + 4}
    left={LEFT}
    below={[dayAndMonth(shown.from), dayAndMonth(shown.to)]}
    head={['Until', 'Range', 'In slurs and scales']}
    rowOf={(bar) => [dayAndMonth(bar.day), span(bar), span(bar.line)]}
  >
    {#snippet picture(at)}
      <line x1={LEFT} x2={width} y1={shown.middle} y2={shown.middle} stroke="var(--rule)" />
      <text x={LEFT - 8} y={shown.middle + 4} text-anchor="end">{nameOf(ladder.middle)}</text>
      {#each shown.bars as bar, i (bar.day)}
        <rect
          x={bar.x}
          y={bar.top}
          width={bar.width}
          height={bar.height}
          fill="var(--brass)"
          opacity={at === null || i === at ? 1 : 0.55}
        />
        {#if bar.line}
          <rect x={bar.x + bar.width / 2 - 1.5} y={bar.line.top} width="3" height={bar.line.height} fill="var(--ink)" />
        {/if}
      {/each}
      {#each shown.edges as edge (edge.midi)}
        <text class="edge" x={LEFT - 8} y={edge.y + 4} text-anchor="end">{nameOf(edge.midi)}</text>
      {/each}
    {/snippet}
  </Chart>
{:else if !bare}
  <p class="quiet mt-2">No range yet. A note is in your range after clean takes on three days.</p>
{/if}

<style>
  text.edge {
    fill: var(--ink);
  }
</style>
