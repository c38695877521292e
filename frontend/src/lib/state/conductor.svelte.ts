/** Leads a session without hands: after a while it says by itself what the player would have to say otherwise.
 *  The server decides what comes next; only the waiting is done here. */
import type { SourceKind } from '../audio/engine';
import { countInAt } from './inTime.svelte';
import type { Stand } from './stand.svelte';

const READY_S = 3; // before a count-in
const READ_S = 5; // for a verdict
const READ_HELD_S = 2.5;
const SHOW_BARS = 2; // so long before it begins the next exercise is on the stand
const HEARD_S = 2; // for a verdict, where the click goes on
const ARM_S = 0.2; // before the count-in a take is begun
const EVERY_MS = 50;
const LONGEST_TICK_S = 1.5;
const TELL_PLAYED_S = 0.8; // of playing in a rest, before it is told

export class Conductor {
  /** Seconds until it goes on; null while nothing is waited for. */
  left = $state<number | null>(null);
  /** Bars until the next exercise begins, where the click goes on. */
  barsLeft = $state<number | null>(null);
  total = $state(0);
  #timer: ReturnType<typeof setInterval> | null = null;
  #key = '';
  #soonest = false;
  #heardS = 0;

  constructor(
    readonly stand: Stand,
    readonly options: {
      goesOn: () => boolean;
      speed: () => number;
      source: () => SourceKind;
      begin: (bars: number | null) => void;
    },
  ) {}

  /** Called whenever the state changed. */
  follow(): void {
    const { state, running, owner } = this.stand;
    const key = state
      ? [
          state.phase,
          state.block,
          state.exercise_index,
          state.form,
          state.checking,
          state.takes?.length,
          state.paused,
        ].join()
      : '';
    if (key === this.#key) {
      // A rest that grew because it was played through.
      if (state?.phase === 'rest' && state.rest) this.#stretch(state.rest.seconds);
      return;
    }
    this.#key = key;
    this.stop();
    if (!state || state.paused || !owner) return;
    if (state.phase === 'rest' && state.rest) {
      this.#wait(state.rest.seconds, () => this.stand.say('rest-over'), true);
      this.left = Math.max(0, state.rest.seconds - this.stand.restedS);
      this.stand.restedS = 0;
    }
    if (!running || !this.options.goesOn()) return;
    const bars = this.stand.bars;
    if (bars !== null) return this.#goOn(bars);
    if (state.phase === 'preview') this.#wait(READY_S, () => this.options.begin(null));
    if (state.phase === 'verdict') {
      const held = this.stand.verdict?.outcome === 'clean';
      this.#wait(held ? READ_HELD_S : READ_S, () => this.stand.say('go-on'));
    }
  }

  /** The rest's seconds played through, told to the server once the playing has stopped. */
  heard(seconds: number, sounding: boolean): void {
    if (this.stand.phase !== 'rest') {
      this.#heardS = 0;
      return;
    }
    if (sounding) this.#heardS += seconds;
    else if (this.#heardS > 0) {
      if (this.#heardS >= TELL_PLAYED_S) this.stand.say('played', { seconds: Math.round(10 * this.#heardS) / 10 });
      this.#heardS = 0;
    }
  }

  stop(): void {
    if (this.#timer) clearInterval(this.#timer);
    this.#timer = null;
    this.left = this.barsLeft = null;
  }

  /** The next exercise begins at once: with the next bar that leaves time for its count-in. */
  sooner(): void {
    this.#soonest = true;
  }

  /** The click goes on: first the verdict is read, then the next exercise is shown, then its count-in begins. */
  #goOn(bars: number): void {
    const { inTime } = this.stand;
    const since = inTime.clock;
    let prepared = false;
    let music = Infinity;
    if (this.stand.phase === 'verdict') this.#soonest = false; // what was said while it was read holds for what follows
    this.#timer = setInterval(() => {
      const { exercise, phase } = this.stand;
      if (!exercise) return;
      // Nobody who looks elsewhere, sings or blows is led on.
      if (globalThis.document?.hidden || this.stand.sounds.busy) return this.stand.say('pause');
      music = this.#soonest ? Math.min(music, inTime.musicAt(bars, exercise, true)) : inTime.musicAt(bars, exercise);
      this.barsLeft = Math.max(1, Math.ceil((music - inTime.clock) / inTime.barS - 1e-3));
      if (phase === 'verdict') {
        const read = Math.max(since + HEARD_S, music - SHOW_BARS * inTime.barS);
        if (!this.#soonest && inTime.clock < Math.min(read, countInAt(exercise, music) - HEARD_S)) return;
        this.stop();
        this.stand.say('go-on');
      } else if (phase === 'preview' && this.stand.ready) {
        if (!prepared) void this.stand.prepare(this.options.source());
        prepared = true;
        if (inTime.clock < countInAt(exercise, music) - ARM_S) return;
        this.stop();
        this.options.begin(this.#soonest ? 0 : bars);
      }
    }, EVERY_MS);
  }

  #stretch(total: number): void {
    if (this.left === null || total <= this.total) return;
    this.left += total - this.total;
    this.total = total;
  }

  /** `asleep`: whether the time counts that passes while the machine sleeps or the page lies in the background. */
  #wait(seconds: number, then: () => void, asleep = false): void {
    this.total = seconds;
    this.left = seconds;
    let last = performance.now();
    this.#timer = setInterval(() => {
      const now = performance.now();
      // Nobody is led away from what they are singing or blowing.
      if (this.stand.sounds.busy) {
        last = now;
        return;
      }
      // A page that nobody sees counts nobody in, and leads nobody on.
      if (!asleep && globalThis.document?.hidden) {
        last = now;
        return;
      }
      const passed = (now - last) / 1000;
      // A machine that slept rested, too; but nobody is counted in the moment it wakes.
      this.left = (this.left ?? 0) - (asleep ? passed : Math.min(passed, LONGEST_TICK_S)) * this.options.speed();
      last = now;
      if (this.left > 0) return;
      this.stop();
      then();
    }, 100);
  }
}
