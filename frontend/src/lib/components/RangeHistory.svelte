<script lang="ts">
  import type { RangeSummary } from '../api/client';
  import { bothWays, dayAndMonth, rangeBars, rangeInWords } from '../view/range';

  /** The range over time: a bar from the lowest note to the highest, inside it in ink what goes in slurs and scales, the
   *  comfortable middle as a rule. */
  type Props = { ladder: RangeSummary; nameOf: (midi: number | null | undefined) => string; bare?: boolean };
  let { ladder, nameOf, bare = false }: Props = $props();
  let width = $state(0);
  const HEIGHT = 150;
  const shown = $derived(rangeBars(ladder.history, ladder.middle, { width, height: HEIGHT, left: 64 }));
</script>

{#if shown.bars.length > 1}
  <div class="mt-2">
    {#if !bare}
      <p class="quiet">
        {rangeInWords(ladder.history, nameOf)}
        {bothWays(ladder.history.at(-1), nameOf)}
      </p>
    {/if}
    <div class="mt-3" bind:clientWidth={width}>
      <svg {width} height={HEIGHT + 24} role="img" aria-label={rangeInWords(ladder.history, nameOf)}>
        <line x1="64" x2={width} y1={shown.middle} y2={shown.middle} stroke="var(--rule)" />
        <text x="56" y={shown.middle + 4} text-anchor="end" class="soft">{nameOf(ladder.middle)}</text>
        {#each shown.bars as bar (bar.day)}
          <rect x={bar.x} y={bar.top} width={bar.width} height={bar.height} fill="var(--brass)">
            <title
              >{dayAndMonth(bar.day)}: {nameOf(bar.low)} to {nameOf(bar.high)}{bar.line
                ? `, in slurs and scales ${nameOf(bar.line.low)} to ${nameOf(bar.line.high)}`
                : ''}</title
            >
          </rect>
          {#if bar.line}
            <rect
              x={bar.x + bar.width / 2 - 1.5}
              y={bar.line.top}
              width="3"
              height={bar.line.height}
              fill="var(--ink)"
            />
          {/if}
        {/each}
        {#each shown.edges as edge (edge.midi)}
          <text x="56" y={edge.y + 4} text-anchor="end">{nameOf(edge.midi)}</text>
        {/each}
        <text x="64" y={HEIGHT + 20} class="soft">{dayAndMonth(shown.from)}</text>
        <text x={width} y={HEIGHT + 20} text-anchor="end" class="soft">{dayAndMonth(shown.to)}</text>
      </svg>
    </div>
  </div>
{:else if !bare}
  <p class="quiet mt-2">No range yet. A note is in your range after clean takes on three days.</p>
{/if}

<style>
  text {
    fill: var(--ink);
    font-size: 0.9rem;
  }

  .soft {
    fill: var(--ink-soft);
  }
</style>
