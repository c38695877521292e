<script lang="ts">
  /** A take as a small shape: clean a full bar, close a bar with a notch, not yet an outline, not heard dashed, done a dot. */
  import { OUTCOME_WORDS } from '../view/words';

  import type { Outcome } from '../api/client';

  let { outcome, size = 22 }: { outcome: Outcome; size?: number } = $props();
  const word = $derived(OUTCOME_WORDS[outcome]);
</script>

<svg width={size * 1.6} height={size} viewBox="0 0 32 20" role="img" aria-label={word} style="color: var(--brass)">
  <title>{word}</title>
  {#if outcome === 'clean'}
    <rect x="2" y="4" width="28" height="12" fill="currentColor" />
  {:else if outcome === 'close'}
    <path d="M2 4h16v6h5V4h7v12H2z" fill="currentColor" />
  {:else if outcome === 'done'}
    <circle cx="16" cy="10" r="6" fill="currentColor" />
  {:else if outcome === 'not_yet'}
    <rect x="3" y="5" width="26" height="10" fill="none" stroke="currentColor" stroke-width="2" />
  {:else}
    <rect
      x="3"
      y="5"
      width="26"
      height="10"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-dasharray="3 3"
    />
  {/if}
</svg>
