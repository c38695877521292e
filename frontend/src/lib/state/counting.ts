/** The beats of an exercise on the engine's clock. */
import type { ExerciseView } from '../api/client';
import type { Engine } from '../audio/engine';
import { clicksOf } from '../audio/tones';
import { household } from './household.svelte';

/** From the touch to the first beat, in seconds. */
export const LEAD_S = 0.6;

/** `countIn` has a fraction where a pick-up begins between two beats. */
export type Beats = { countIn: number; all: number };

export function beatsOf(exercise: ExerciseView): Beats {
  return {
    countIn: exercise.count_in_s / exercise.beat_s,
    all: Math.ceil(exercise.duration_s / exercise.beat_s - 1e-6),
  };
}

/** Clicks for the first so many beats, the player's own subdivision and silent bars kept. */
export function clickBeats(engine: Engine, exercise: ExerciseView, first: number, beats: number): void {
  const { countIn } = beatsOf(exercise);
  for (const item of clicksOf(beats, exercise.exercise.beats_per_bar, countIn, household.click)) {
    engine.click(first + item.beat * exercise.beat_s, item.strength);
  }
}
