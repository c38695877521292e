<script lang="ts">
  import {
    bandOf,
    counted,
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

  /** One measure over days or weeks. Arrow keys go from one to the next; the same lies below as a table. */
  let { shown, unit }: { shown: TrendShown; unit: Step } = $props();
  let opened = $state(false);
  let width = $state(0);
  let at = $state<number | null>(null);
  const HEIGHT = 120;
  const dots = $derived(dotsOf(shown, { width, height: HEIGHT, left: 44 }));
  const points = $derived(shown.trend.points);
  const scale = $derived(scaleOf(shown));
  const chosen = $derived(at === null ? null : (dots[at] ?? null));
  const name = $derived(titleOf(shown));

  function step(event: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1, Home: -points.length, End: points.length }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    at = Math.min(points.length - 1, Math.max(0, (at ?? (by > 0 ? -1 : points.length)) + by));
  }
  function near(event: PointerEvent) {
    const { left } = (event.currentTarget as Element).getBoundingClientRect();
    const x = event.clientX - left;
    at = dots.reduce((best, dot, i) => (Math.abs(dot.x - x) < Math.abs((dots[best]?.x ?? 1e9) - x) ? i : best), 0);
  }
</script>

<figure class="trend">
  <figcaption>
    <b>{name}</b> <span class="quiet">{shown.measure.unit}</span><br />
    <span class="quiet">
      {#if shown.says}{sentence(shown.says.slice(shown.says.indexOf(': ') + 2))}
      {:else if shown.trend.missing}Not enough data yet: {counted(shown.trend.missing, unit).replace(' ', ' more ')} to go.
      {:else}No clear change.{/if}
    </span>
  </figcaption>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="picture"
    bind:clientWidth={width}
    tabindex="0"
    role="img"
    aria-label="{name}: {counted(points.length, unit)}. {chosen
      ? pointInWords(chosen.point, shown.measure.unit, unit)
      : (shown.says ?? '')}"
    onkeydown={step}
    onpointermove={near}
    onpointerleave={() => (at = null)}
  >
    <svg {width} height={HEIGHT}>
      <text x="38" y="14" text-anchor="end">{numberOf(scale[1])}</text>
      <text x="38" y={HEIGHT - 4} text-anchor="end">{numberOf(scale[0])}</text>
      <line x1="44" x2={width} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} stroke="var(--ink)" />
      <path d={bandOf(dots, shown.trend.missing)} fill="var(--brass)" opacity="0.22" />
      <path d={lineOf(dots, shown.trend.missing)} fill="none" stroke="var(--brass)" stroke-width="2" />
      {#each dots as dot, i (dot.point.day)}
        <circle cx={dot.x} cy={dot.y} r={i === at ? 5 : dots.length > 40 ? 1.5 : 3} fill="var(--brass)" />
      {/each}
    </svg>
  </div>
  <p class="quiet ends" aria-live="polite">
    {#if chosen}{pointInWords(chosen.point, shown.measure.unit, unit)}
    {:else if points.length}<span>{shortDate(points[0]!.day)}</span><span>{shortDate(points.at(-1)!.day)}</span>{/if}
  </p>
  <details bind:open={opened}>
    <summary class="quiet">Table</summary>
    <table>
      <thead>
        <tr
          ><th scope="col">{unit === 'week' ? 'Week of' : 'Day'}</th><th scope="col">Median</th><th scope="col"
            >Middle half</th
          ><th scope="col">Takes</th></tr
        >
      </thead>
      <tbody>
        <!-- A long page has sixty of these: rows are made when they are asked for. -->
        {#each opened ? points : [] as point (point.day)}
          <tr>
            <th scope="row">{shortDate(point.day)}</th>
            <td>{numberOf(point.middle)}</td>
            <td>{numberOf(point.low)} to {numberOf(point.high)}</td>
            <td>{point.takes}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
</figure>

<style>
  .trend {
    min-width: 0;
  }

  .picture {
    margin-top: 0.5rem;
    height: 120px;
    overflow: hidden;
  }

  text {
    fill: var(--ink-soft);
    font-size: 0.8rem;
  }

  .ends {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    padding-left: 44px;
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
