<script lang="ts">
  import type { ExerciseView } from '../api/client';

  /** Paced breath, or an exercise's rhythm as air: what to do now, in one huge word, and how many beats are left of it. */
  let { exercise, beat }: { exercise: ExerciseView; beat: number | null } = $props();
  const countIn = $derived(Math.round(exercise.count_in_s / exercise.beat_s));
  const at = $derived(beat === null ? -1 : beat - countIn);
  const now = $derived(
    exercise.exercise.notes.find((note) => at >= note.start_beat && at < note.start_beat + note.beats),
  );
  const left = $derived(now ? Math.ceil(now.start_beat + now.beats - at) : null);
</script>

<div class="pace" aria-live="off">
  {#if now}
    <span class="serif word">{now.text ?? 'blow'}</span>
    <span class="serif number">{left}</span>
  {/if}
</div>

<style>
  .pace {
    height: 100%;
    display: flex;
    align-items: center;
    justify-content: center;
    gap: min(4rem, 6vw);
    overflow: hidden;
  }

  .word {
    font-size: clamp(2.5rem, min(16vh, 16vw), 9rem);
  }

  .number {
    font-size: clamp(4rem, min(24vh, 24vw), 14rem);
    min-width: 1.2em;
  }
</style>
