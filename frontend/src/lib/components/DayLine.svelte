<script lang="ts">
  import type { DayBlock } from '../api/client';
  import { barsOf } from '../view/dayline';

  /** The day to scale: blocks as bars of ink, rests as the paper between; heavy ones hatched. */
  type Props = { blocks: readonly DayBlock[]; nameOf: (family: string) => string };
  let { blocks, nameOf }: Props = $props();
  const bars = $derived(barsOf(blocks, nameOf));
  const minutes = $derived(Math.round(blocks.reduce((sum, block) => sum + block.minutes, 0)));
</script>

<div class="line" role="img" aria-label="{blocks.length} blocks over {minutes} minutes, rests between">
  {#each bars as bar, index (index)}
    <span class="bar {bar.load}" style="left: {bar.left}%; width: {bar.width}%" title={bar.title}></span>
  {/each}
</div>

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
</style>
