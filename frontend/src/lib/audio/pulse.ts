/** A metronome's beats one after another: meter, parts, accents, silent bars, a tempo that rises. No sound and no clock. */

export type PulseSettings = {
  tempo: number;
  /** Beats in a bar. */
  beats: number;
  /** Clicks in a beat. */
  parts: number;
  accents: boolean;
  /** Bars that sound, then bars that are silent; none silent when 0. */
  soundBars: number;
  silentBars: number;
  /** Beats a minute that the tempo rises by, after so many bars, up to a tempo; 0: it stays. */
  riseBy: number;
  riseBars: number;
  riseTo: number;
};

export const TEMPO = { low: 20, high: 300 } as const;
export const PLAIN_PULSE: PulseSettings = {
  tempo: 80,
  beats: 4,
  parts: 1,
  accents: true,
  soundBars: 2,
  silentBars: 0,
  riseBy: 0,
  riseBars: 4,
  riseTo: 120,
};

export type Tick = { at: number; bar: number; beat: number; part: number; silent: boolean; tempo: number };

export function inTempo(tempo: number): number {
  return Math.min(TEMPO.high, Math.max(TEMPO.low, Math.round(tempo)));
}

/** The ticks from a moment on; a change of settings counts from the next tick. */
export class Pulse {
  #at: number;
  #bar = 0;
  #beat = 0;
  #part = 0;

  constructor(start: number) {
    this.#at = start;
  }

  /** When the next tick comes. */
  get due(): number {
    return this.#at;
  }

  next(settings: PulseSettings): Tick {
    const tempo = this.tempoAt(settings, this.#bar);
    const cycle = settings.soundBars + settings.silentBars;
    const silent = settings.silentBars > 0 && this.#bar % cycle >= settings.soundBars;
    const tick = { at: this.#at, bar: this.#bar, beat: this.#beat, part: this.#part, silent, tempo };
    this.#at += 60 / tempo / settings.parts;
    if (++this.#part >= settings.parts) {
      this.#part = 0;
      if (++this.#beat >= settings.beats) {
        this.#beat = 0;
        this.#bar++;
      }
    }
    return tick;
  }

  tempoAt(settings: PulseSettings, bar: number): number {
    if (!settings.riseBy || settings.riseTo <= settings.tempo) return settings.tempo;
    const steps = Math.floor(bar / Math.max(1, settings.riseBars));
    return Math.min(settings.riseTo, settings.tempo + steps * settings.riseBy);
  }
}

const FORGET_MS = 2500;

/** A tempo tapped: the mean of the last few gaps; null until there are two taps. */
export class Taps {
  #taps: number[] = [];

  tap(now: number): number | null {
    const last = this.#taps.at(-1);
    if (last !== undefined && now - last > FORGET_MS) this.#taps = [];
    this.#taps = [...this.#taps.slice(-5), now];
    const gaps = this.#taps.slice(1).map((at, i) => at - (this.#taps[i] ?? at));
    if (!gaps.length) return null;
    return inTempo((60_000 * gaps.length) / gaps.reduce((sum, gap) => sum + gap, 0));
  }
}
