/** The metronome on the engine's clock: clicks are set a little ahead, and told as they sound. */
import type { Engine } from './engine';
import { Pulse, type PulseSettings, type Tick } from './pulse';

const AHEAD_S = 0.2;
const EVERY_MS = 40;

export class Metronome {
  #pulse: Pulse | null = null;
  #timer: ReturnType<typeof setInterval> | null = null;
  #waiting: Tick[] = [];

  constructor(
    readonly engine: Engine,
    readonly settings: () => PulseSettings,
  ) {}

  start(): void {
    this.#pulse = new Pulse(this.engine.context.currentTime + 0.1);
    this.#timer = setInterval(() => this.#ahead(), EVERY_MS);
    this.#ahead();
  }

  stop(): void {
    if (this.#timer !== null) clearInterval(this.#timer);
    this.#timer = null;
    this.#waiting = [];
    this.engine.hushClicks();
  }

  /** The latest beat that has sounded by now; null before the first and between two looks at the same. */
  sounded(): Tick | null {
    const now = this.engine.context.currentTime;
    let last: Tick | null = null;
    while (this.#waiting[0] && this.#waiting[0].at <= now) last = this.#waiting.shift() ?? null;
    return last;
  }

  #ahead(): void {
    const pulse = this.#pulse;
    if (!pulse) return;
    while (pulse.due < this.engine.context.currentTime + AHEAD_S) {
      const settings = this.settings();
      const tick = pulse.next(settings);
      if (tick.part === 0) this.#waiting.push(tick);
      if (tick.silent) continue;
      const accented = settings.accents && tick.beat === 0 && tick.part === 0;
      this.engine.click(tick.at, tick.part ? 'part' : accented ? 'first' : 'beat');
    }
  }
}
