<script lang="ts">
  import type { BlockPlan } from '../api/client';
  import { dayOf } from '../view/dayline';

  /** The day to scale: blocks as bars of ink, rests as the paper between; heavy ones hatched. Below, why each is there. */
  let { plan }: { plan: BlockPlan[] } = $props();
  const day = $derived(dayOf(plan));
</script>

<div class="line" role="img" aria-label="{plan.length} blocks over about {Math.round(day.minutes)} minutes">
  {#each day.blocks as block (block.index)}
    <span
      class="bar {block.load}"
      style="left: {block.left}%; width: {block.width}%"
      title="{block.title}, {block.minutes} min"
    ></span>
  {/each}
</div>
<ol class="mt-4 grid gap-x-10 sm:grid-cols-2">
  {#each day.blocks as block (block.index)}
    <li class="rule flex items-baseline gap-3 border-b py-2">
      <span class="minutes">{block.minutes} min</span>
      <span
        ><b>{block.title}</b>{block.load === 'high' ? ', heavy' : ''}<br /><span class="quiet">{block.why}</span></span
      >
    </li>
  {/each}
</ol>

<style>
  .line {
    position: relative;
    height: 34px;
    margin-top: 1.5rem;
    border-bottom: 1px solid var(--ink);
  }

  .bar {
    position: absolute;
    bottom: 0;
    background: var(--ink);
  }

  .bar.easy {
    height: 14px;
  }

  .bar.medium {
    height: 22px;
  }

  .bar.high {
    height: 32px;
    background: repeating-linear-gradient(135deg, var(--ink) 0 3px, transparent 3px 6px);
    outline: 1px solid var(--ink);
    outline-offset: -1px;
  }

  .minutes {
    min-width: 4.2rem;
    color: var(--ink-soft);
  }
</style>
