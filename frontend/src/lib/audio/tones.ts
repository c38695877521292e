/** Sounds that the page itself makes: clicks, a drone, a reference note. All on the one clock of the AudioContext. */

export type ClickSettings = {
  /** Clicks in a beat: 1, 2, 3 or 4. */
  parts: number;
  accents: boolean;
  /** Bars that sound, then bars that are silent; none silent when 0. */
  soundBars: number;
  silentBars: number;
};
export const PLAIN_CLICK: ClickSettings = { parts: 1, accents: true, soundBars: 2, silentBars: 0 };

export type ClickAt = { beat: number; strength: 'first' | 'beat' | 'part' };

/** Every click of an exercise, in beats from the count-in's first; the count-in itself always sounds. */
export function clicksOf(beats: number, perBar: number, countIn: number, settings: ClickSettings): ClickAt[] {
  const out: ClickAt[] = [];
  const cycle = settings.soundBars + settings.silentBars;
  for (let beat = 0; beat < beats; beat++) {
    const bar = Math.floor((beat - countIn) / perBar);
    const silent = settings.silentBars > 0 && beat >= countIn && bar % cycle >= settings.soundBars;
    if (silent) continue;
    const first = settings.accents && beat % perBar === 0;
    out.push({ beat, strength: first ? 'first' : 'beat' });
    for (let part = 1; part < settings.parts; part++) {
      out.push({ beat: beat + part / settings.parts, strength: 'part' });
    }
  }
  return out;
}

const CLICK = {
  first: { hz: 1320, gain: 0.35 },
  beat: { hz: 990, gain: 0.22 },
  part: { hz: 740, gain: 0.1 },
} as const;

export function click(context: AudioContext, at: number, strength: ClickAt['strength']): OscillatorNode {
  const { hz, gain } = CLICK[strength];
  const tone = new OscillatorNode(context, { frequency: hz, type: 'sine' });
  const shape = new GainNode(context, { gain: 0 });
  shape.gain.setValueAtTime(0, at);
  shape.gain.linearRampToValueAtTime(gain, at + 0.002);
  shape.gain.exponentialRampToValueAtTime(0.0005, at + 0.05);
  tone.connect(shape).connect(context.destination);
  tone.start(at);
  tone.stop(at + 0.06);
  return tone;
}

/** When a tone of a known phase can still begin: when it is due, or whole periods later. */
export function inPhase(due: number, now: number, hz: number): number {
  return due + Math.ceil(Math.max(0, now - due) * hz) / hz;
}

/** A held tone with harmonics that fall as a soft instrument's do; `stop` lets it fade. */
export class HeldTone {
  #tone: OscillatorNode;
  #gain: GainNode;

  constructor(
    readonly context: AudioContext,
    hz: number,
    loudness = 0.12,
    at = context.currentTime,
  ) {
    const size = 14;
    const imag = new Float32Array(size);
    for (let n = 1; n < size; n++) imag[n] = n ** -1.4 / Math.sqrt(1 + (220 / (n * hz)) ** 2);
    const wave = new PeriodicWave(context, { imag });
    this.#tone = new OscillatorNode(context, { frequency: hz, periodicWave: wave });
    this.#gain = new GainNode(context, { gain: 0 });
    this.#gain.gain.setTargetAtTime(loudness, at, 0.06);
    this.#tone.connect(this.#gain).connect(context.destination);
    this.#tone.start(at);
  }

  stop(at = this.context.currentTime): void {
    this.#gain.gain.setTargetAtTime(0, at, 0.05);
    this.#tone.stop(at + 0.4);
  }
}
