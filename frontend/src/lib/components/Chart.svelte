<script lang="ts" generics="Point">
  import type { Snippet } from 'svelte';

  /** A picture over time with one behaviour for all: arrow keys and the pointer go from point to point, what is chosen is said
   *  below, and the same lies there as a table. What is drawn is the caller's. */
  type Props = {
    name: string;
    points: readonly Point[];
    /** The width that there is, for the caller to lay the picture out in. */
    width: number;
    /** Where the middle of each point is drawn, in the order of the points. */
    middles: readonly number[];
    wordsOf: (point: Point) => string;
    height: number;
    head: readonly string[];
    rowOf: (point: Point) => readonly (string | number)[];
    /** Stands below while nothing is chosen: both ends in time, or a legend. */
    below?: readonly string[];
    left?: number;
    exportTable?: () => void;
    picture: Snippet<[at: number | null]>;
  };
  let {
    name,
    points,
    width = $bindable(),
    middles,
    wordsOf,
    height,
    head,
    rowOf,
    below = [],
    left = 44,
    exportTable,
    picture,
  }: Props = $props();
  let at = $state<number | null>(null);
  let opened = $state(false);
  const chosen = $derived(at === null ? null : (points[at] ?? null));

  function step(event: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -points.length, End: points.length }[event.key];
    if (by === undefined || !points.length) return;
    event.preventDefault();
    at = Math.min(points.length - 1, Math.max(0, (at ?? (by > 0 ? -1 : points.length)) + by));
  }
  function near(event: PointerEvent) {
    const x = event.clientX - (event.currentTarget as Element).getBoundingClientRect().left;
    const gap = (i: number) => Math.abs((middles[i] ?? Infinity) - x);
    at = middles.length ? middles.reduce((best, _, i) => (gap(i) < gap(best) ? i : best), 0) : null;
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  class="picture"
  style:height="{height}px"
  bind:clientWidth={width}
  tabindex="0"
  role="img"
  aria-label="{name}{chosen ? `. ${wordsOf(chosen)}` : ''}"
  onkeydown={step}
  onpointermove={near}
  onpointerleave={() => (at = null)}
>
  <svg {width} {height}>{@render picture(at)}</svg>
</div>
<p class="quiet below" style:padding-left="{left}px" aria-live="polite">
  {#if chosen}{wordsOf(chosen)}{:else}{#each below as text, i (i)}<span>{text}</span>{/each}{/if}
</p>
<details bind:open={opened}>
  <summary class="quiet">Table</summary>
  {#if exportTable}<p><button class="line py-2" onclick={exportTable}>Export as CSV</button></p>{/if}
  <div class="scroll">
    <table>
      <thead>
        <tr
          >{#each head as title, i (i)}<th scope="col">{title}</th>{/each}</tr
        >
      </thead>
      <tbody>
        <!-- A long page has sixty of these: rows are made when they are asked for. -->
        {#each opened ? points : [] as point, i (i)}
          <tr>
            {#each rowOf(point) as cell, j (j)}{#if j}<td>{cell}</td>{:else}<th scope="row">{cell}</th>{/if}{/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</details>

<style>
  .picture {
    margin-top: 0.5rem;
    overflow: hidden;
  }

  svg :global(text) {
    fill: var(--ink-soft);
    font-size: 0.8rem;
  }

  .below {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    font-size: 0.85rem;
    min-height: 1.4rem;
  }

  details {
    font-size: 0.9rem;
  }

  summary {
    cursor: pointer;
    padding: 0.25rem 0;
  }

  .scroll {
    overflow-x: auto;
  }

  table {
    width: 100%;
    border-collapse: collapse;
  }

  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 0.15rem 0.5rem 0.15rem 0;
    border-bottom: 1px solid var(--rule);
  }
</style>
