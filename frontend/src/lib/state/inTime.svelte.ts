/** Practice in time: the click goes on after a take, on its beats, until the next take's own begin. */
import type { ExerciseView } from '../api/client';
import { barS, gridAt, nextMusicAt, type BarGrid } from '../audio/barGrid';
import type { Engine } from '../audio/engine';
import { clicksOf, type ClickAt } from '../audio/tones';
import { beatsOf } from './counting';
import { household } from './household.svelte';

const AHEAD_S = 0.2;
const EVERY_MS = 40;
const SAME_S = 0.02;
const MOST_BEATS = 4000; // an hour of them
const LEAST_COUNTED = 2; // beats of the count-in that are left when a take begins

type Playing = { grid: BarGrid; clicks: ClickAt[]; next: number };

export class InTime {
  running = $state(false);
  #engine: Engine | null = null;
  #now: Playing | null = null;
  #following: Playing | null = null;
  #clicked = 0;
  #timer: ReturnType<typeof setInterval> | null = null;

  /** A take whose count-in begins at `first`; whatever clicked before gives way to it then. */
  start(engine: Engine, exercise: ExerciseView, first: number): void {
    const grid = gridOf(exercise, first);
    const clicks = clicksOf(MOST_BEATS, grid.perBar, grid.countIn, household.click);
    const playing = { grid, clicks, next: 0 };
    this.#engine = engine;
    if (this.#now) this.#following = playing;
    else this.#now = playing;
    this.running = true;
    this.#timer ??= setInterval(() => this.#ahead(), EVERY_MS);
    this.#ahead();
  }

  stop(): void {
    if (this.#timer !== null) clearInterval(this.#timer);
    this.#timer = null;
    this.#now = this.#following = null;
    if (this.running) this.#engine?.hushClicks();
    this.running = false;
  }

  /** Seconds of the audio clock. */
  get clock(): number {
    return this.#engine?.context.currentTime ?? 0;
  }

  get barS(): number {
    const playing = this.#following ?? this.#now;
    return playing ? barS(playing.grid) : 0;
  }

  /** When the next exercise begins, `bars` after the last one did, and late enough for two beats of its count-in to be heard.
   *  At the `soonest`: with the first bar that leaves time for all of its count-in. */
  musicAt(bars: number, exercise: ExerciseView, soonest = false): number {
    const playing = this.#following ?? this.#now;
    if (!playing) return this.clock;
    const counted = soonest ? beatsOf(exercise).countIn : LEAST_COUNTED;
    return nextMusicAt(playing.grid, soonest ? 0 : bars, this.clock + counted * exercise.beat_s);
  }

  #ahead(): void {
    const until = this.clock + AHEAD_S;
    const following = this.#following;
    if (following && following.grid.first < until) {
      this.#clickUntil(following.grid.first - 0.01);
      this.#now = following;
      this.#following = null;
    }
    this.#clickUntil(until);
  }

  #clickUntil(until: number): void {
    const playing = this.#now;
    if (!playing) return;
    for (;;) {
      const item = playing.clicks[playing.next];
      if (!item) return;
      const at = playing.grid.first + item.beat * playing.grid.beatS;
      if (at >= until) return;
      playing.next++;
      // What lies behind is not caught up with, and no beat sounds twice where one take's clicks give way to the next one's.
      if (at < this.clock || at < this.#clicked + SAME_S) continue;
      this.#engine?.click(at, item.strength);
      this.#clicked = at;
    }
  }
}

export function gridOf(exercise: ExerciseView, first: number): BarGrid {
  return { first, beatS: exercise.beat_s, perBar: exercise.exercise.beats_per_bar, countIn: beatsOf(exercise).countIn };
}

/** When the count-in of an exercise begins whose own first beat falls at `music`. */
export function countInAt(exercise: ExerciseView, music: number): number {
  return gridAt(music, gridOf(exercise, 0)).first;
}
