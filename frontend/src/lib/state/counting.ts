/** The beats of a figure on the engine's clock. */
import type { FigureView } from '../api/client';
import type { Engine } from '../audio/engine';
import { clicksOf } from '../audio/tones';
import { household } from './household.svelte';

/** From the touch to the first beat, in seconds. */
export const LEAD_S = 0.6;

/** `countIn` has a fraction where a pick-up begins between two beats. */
export type Beats = { countIn: number; all: number };

export function beatsOf(figure: FigureView): Beats {
  return {
    countIn: figure.count_in_s / figure.beat_s,
    all: Math.ceil(figure.duration_s / figure.beat_s - 1e-6),
  };
}

/** Clicks for the first so many beats, the player's own subdivision and silent bars kept. */
export function clickBeats(engine: Engine, figure: FigureView, first: number, beats: number): void {
  const { countIn } = beatsOf(figure);
  for (const item of clicksOf(beats, figure.figure.beats_per_bar, countIn, household.click)) {
    engine.click(first + item.beat * figure.beat_s, item.strength);
  }
}
