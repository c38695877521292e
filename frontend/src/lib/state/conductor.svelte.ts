/** Leads a session without hands: after a while it says by itself what the player would have to say otherwise.
 *  The server decides what comes next; only the waiting is done here. */
import type { Stand } from './stand.svelte';

const READY_S = 3; // before a count-in
const READ_S = 5; // for a verdict
const READ_HELD_S = 2.5;
const LONGEST_TICK_S = 1.5;
const TELL_PLAYED_S = 0.8; // of playing in a rest, before it is told

export class Conductor {
  /** Seconds until it goes on; null while nothing is waited for. */
  left = $state<number | null>(null);
  total = $state(0);
  #timer: ReturnType<typeof setInterval> | null = null;
  #key = '';
  #heardS = 0;

  constructor(
    readonly stand: Stand,
    readonly options: { goesOn: () => boolean; speed: () => number; begin: () => void },
  ) {}

  /** Called whenever the state changed. */
  follow(): void {
    const { state, running, owner } = this.stand;
    const key = state
      ? [
          state.phase,
          state.block,
          state.figure_index,
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
    if (state.phase === 'preview') this.#wait(READY_S, this.options.begin);
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
    this.left = null;
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
