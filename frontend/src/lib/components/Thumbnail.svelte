<script lang="ts">
  import { ask, reads } from '../state/reads.svelte';
  import Engraving from './Engraving.svelte';

  /** An exercise's first notes, small; fetched when it comes into sight. */
  let { playerId, exerciseType, name }: { playerId: string; exerciseType: string; name: string } = $props();
  let box = $state<HTMLElement>();
  let inSight = $state(false);
  const wish = $derived({ player_id: playerId, exercise_type: exerciseType, params: {}, index: 0 });
  const view = reads(() => inSight && ask('viewExercise', wish));

  $effect(() => {
    if (!box || inSight) return;
    const seen = new IntersectionObserver((entries) => {
      inSight ||= entries.some((entry) => entry.isIntersecting);
    });
    seen.observe(box);
    return () => seen.disconnect();
  });
</script>

<div class="thumb" bind:this={box}>
  {#if view.value}<Engraving svg={view.value.exercise.svg} title="First notes of {name}" />{/if}
</div>

<style>
  .thumb {
    height: 64px;
    overflow: hidden;
  }
</style>
