<script lang="ts">
  /** The count-in: one huge numeral, and the breath on the last two beats; in two steps before what climbs high. */
  let { beat, bar, all, twoSteps }: { beat: number | null; bar: number; all: number; twoSteps: boolean } = $props();
  const left = $derived(beat === null ? 0 : all - beat);
</script>

<div class="count" aria-live="off">
  {#if beat !== null && beat < all}
    <span class="serif number">{(beat % bar) + 1}</span>
    <span class="serif word">{left > 2 ? '' : !twoSteps ? 'breathe' : left > 1 ? 'breathe low' : 'then high'}</span>
  {/if}
</div>

<style>
  .count {
    position: absolute;
    inset: 0;
    z-index: 1;
    display: flex;
    align-items: center;
    justify-content: center;
    gap: min(3rem, 5vw);
    pointer-events: none;
  }

  .number {
    font-size: clamp(5rem, min(26vh, 30vw), 16rem);
    line-height: 1;
  }

  .word {
    font-size: clamp(1.5rem, min(8vh, 10vw), 5rem);
    min-width: 3.6em;
  }
</style>
