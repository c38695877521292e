<script lang="ts">
  /** A note of the range by shape: full is in range, half is coming, a tick was heard; dotted where the instrument has no partial. */
  import type { RangeNote } from '../api/client';

  let { state, joined, resonant }: { state: RangeNote['state']; joined: boolean; resonant: boolean } = $props();
</script>

<svg width="18" height="120" viewBox="0 0 18 120" aria-hidden="true" style="color: var(--brass)">
  <line
    x1="9"
    y1="0"
    x2="9"
    y2="116"
    stroke="var(--verdigris)"
    stroke-width="1"
    stroke-dasharray={resonant ? undefined : '2 4'}
  />
  {#if state === 'in_range'}
    <rect x="2" y="6" width="14" height="104" fill="currentColor" />
  {:else if state === 'reaching'}
    <rect x="2" y="58" width="14" height="52" fill="currentColor" />
  {:else if state === 'touched'}
    <rect x="2" y="106" width="14" height="4" fill="currentColor" />
  {/if}
  {#if joined}<rect x="0" y="114" width="18" height="4" fill="currentColor" />{/if}
</svg>
