<script lang="ts">
  import { api } from '../api/client';
  import { Loaded } from '../state/loaded.svelte';
  import Engraving from './Engraving.svelte';

  /** An exercise's first notes, small; fetched when it comes into sight. */
  let { playerId, exerciseType, name }: { playerId: string; exerciseType: string; name: string } = $props();
  const view = new Loaded<string>();
  let box = $state<HTMLElement>();

  $effect(() => {
    if (!box || view.value) return;
    const seen = new IntersectionObserver((entries) => {
      if (!entries.some((entry) => entry.isIntersecting)) return;
      seen.disconnect();
      void view.load(
        async () =>
          (await api.viewExercise({ player_id: playerId, exercise_type: exerciseType, params: {}, index: 0 })).exercise
            .svg,
      );
    });
    seen.observe(box);
    return () => seen.disconnect();
  });
</script>

<div class="thumb" bind:this={box}>
  {#if view.value}<Engraving svg={view.value} title="First notes of {name}" />{/if}
</div>

<style>
  .thumb {
    height: 64px;
    overflow: hidden;
  }
</style>
