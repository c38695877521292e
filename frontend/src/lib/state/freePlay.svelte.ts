/** Just play: what is heard, the metronome, the drone, and the recorder, each by itself or together. */
import { api, type Schemas, type TunerNote } from '../api/client';
import { Engine, MicrophoneRefused } from '../audio/engine';
import { Metronome } from '../audio/metronome';
import { inTempo, PLAIN_PULSE, Taps, type PulseSettings } from '../audio/pulse';
import { emptyTrack, extend, HOP_S, type Track } from '../view/track';
import { heardNow, type Heard } from '../view/tuner';
import { FreeLink, type FreeTold } from './freeLink';
import { household } from './household.svelte';
import { words } from './loaded.svelte';
import { InputMeter } from './meter.svelte';

const KEY = 'orexis.just-play';
const SIMULATED_S = 40;
const LOWEST_DRONE = 46; // B flat 2
const LOOK_MS = 90; // a number that changes faster cannot be read

export type Tuning = { a4: number | null; temperament: Schemas['Temperament']; root: number };
export type Drone = { midi: number | null; chord: Schemas['Chord'] };
type Kept = { pulse: PulseSettings; tuning: Tuning; drone: Drone; record: boolean };

function kept(): Kept {
  const usual: Kept = {
    pulse: PLAIN_PULSE,
    tuning: { a4: null, temperament: 'equal', root: 0 },
    drone: { midi: null, chord: 'note' },
    record: true,
  };
  try {
    const found = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>;
    return { ...usual, ...found, pulse: { ...usual.pulse, ...found.pulse } };
  } catch {
    return usual;
  }
}

export class FreePlay {
  pulse = $state<PulseSettings>(kept().pulse);
  tuning = $state<Tuning>(kept().tuning);
  drone = $state<Drone>(kept().drone);
  record = $state(kept().record);

  listening = $state(false);
  ending = $state(false);
  clicking = $state(false);
  droning = $state(false);
  /** The beat that sounds, its bar and tempo. */
  beat = $state<{ bar: number; beat: number; silent: boolean; tempo: number } | null>(null);
  heard = $state.raw<Heard | null>(null);
  notes = $state.raw<TunerNote[]>([]);
  parts = $state(0);
  playingS = $state(0);
  /** The session of the last time something was played. */
  session = $state<string | null>(null);
  trouble = $state<string | null>(null);
  /** The trouble is over as soon as the server hears. */
  #waited = false;
  warnings = $state<string[]>([]);
  readonly meter = new InputMeter();
  track: Track = emptyTrack();

  #engine: Promise<Engine> | null = null;
  #link: FreeLink | null = null;
  #metronome: Metronome | null = null;
  readonly #taps = new Taps();
  #closed = false;
  #looks: ReturnType<typeof setInterval>;

  constructor() {
    this.#looks = setInterval(() => (this.heard = heardNow(this.track, this.notes) ?? this.#fading()), LOOK_MS);
  }

  get a4(): number {
    return this.tuning.a4 ?? household.player?.a4_hz ?? 440;
  }

  /** Remember what was set, for the next time in this window. */
  keep(): void {
    const { pulse, tuning, drone, record } = this;
    localStorage.setItem(KEY, JSON.stringify({ pulse, tuning, drone, record }));
  }

  async loadNotes(playerId: string): Promise<void> {
    try {
      const { temperament, root } = this.tuning;
      this.notes = await api.tuner(playerId, { a4: this.a4, temperament, root });
      this.trouble = null;
    } catch (error) {
      this.trouble = words(error);
    }
  }

  // -- listening ---------------------------------------------------------------------------------------------------

  async listen(): Promise<void> {
    const player = household.player;
    if (!player || this.listening) return;
    this.listening = true;
    this.trouble = null;
    try {
      const engine = await this.#ready();
      const simulated = household.source === 'simulated';
      const wav = simulated ? await api.playFreely(player.id, SIMULATED_S) : null;
      if (!wav) await engine.useMicrophone(household.deviceId);
      const session = (await api.openFree(player.id)).id;
      if (this.#closed) return;
      [this.parts, this.playingS, this.track, this.session] = [0, 0, emptyTrack(), session];
      engine.onBlock = (block) => {
        this.meter.add(block.samples);
        this.#link?.send(block.samples);
      };
      engine.onGone = () => (this.trouble = 'The microphone was unplugged. Plug it in again, then press Listen.');
      if (wav) await engine.playSimulated(wav, engine.context.currentTime + 0.1);
      this.warnings = engine.warnings;
      this.#link = new FreeLink(
        { session, rate: engine.rate, source: household.source, keepSound: this.record, facts: engine.facts },
        { told: (message) => this.#told(message), lost: () => (this.trouble = LOST) },
      );
    } catch (error) {
      this.listening = false;
      this.trouble = error instanceof MicrophoneRefused ? error.message : words(error);
    }
  }

  /** Stop listening; the last part is read before this is done. */
  async stop(): Promise<void> {
    const [link, engine] = [this.#link, await this.#engine];
    this.listening = false;
    if (engine) {
      engine.onBlock = null;
      engine.hush();
      engine.release();
    }
    this.#link = null;
    this.ending = true;
    await link?.end();
    this.ending = false;
  }

  #told(message: FreeTold): void {
    if (message.type === 'frames') {
      extend(this.track, message.final, message.provisional);
      if (this.trouble === LOST || this.#waited) [this.trouble, this.#waited] = [null, false];
    } else if (message.type === 'part') {
      this.parts++;
      this.playingS += message.playing_s;
    } else if (message.type === 'full' || message.type === 'error') {
      this.trouble = message.message;
      this.#waited = message.type === 'error' && message.kind === 'BusyError';
    }
  }

  /** In a short silence the last note stays readable. */
  #fading(): Heard | null {
    const from = Math.max(0, this.track.f0.length - Math.round(1.5 / HOP_S));
    return this.track.f0.slice(from).some((f) => typeof f === 'number') ? this.heard : null;
  }

  // -- metronome and drone -----------------------------------------------------------------------------------------

  setPulse(change: Partial<PulseSettings>): void {
    this.pulse = { ...this.pulse, ...change, tempo: inTempo(change.tempo ?? this.pulse.tempo) };
    this.keep();
  }

  tap(): void {
    const tempo = this.#taps.tap(performance.now());
    if (tempo !== null) this.setPulse({ tempo });
  }

  async toggleClick(): Promise<void> {
    if (this.clicking) {
      this.#metronome?.stop();
      [this.#metronome, this.clicking, this.beat] = [null, false, null];
      return;
    }
    this.clicking = true;
    try {
      this.#metronome = new Metronome(await this.#ready(), () => this.pulse);
      this.#metronome.start();
      this.#show(this.#metronome);
    } catch (error) {
      this.clicking = false;
      this.trouble = words(error);
    }
  }

  #show(metronome: Metronome): void {
    if (this.#metronome !== metronome) return;
    const tick = metronome.sounded();
    if (tick) this.beat = { bar: tick.bar, beat: tick.beat, silent: tick.silent, tempo: tick.tempo };
    requestAnimationFrame(() => this.#show(metronome));
  }

  async toggleDrone(): Promise<void> {
    this.droning = !this.droning;
    await this.sound();
  }

  /** The drone as it is set now. */
  async sound(): Promise<void> {
    const player = household.player;
    if (!player || (!this.droning && !this.#engine)) return;
    try {
      const engine = await this.#ready();
      const { temperament } = this.tuning;
      const root = this.drone.midi ?? this.usualDrone;
      const hz = this.droning
        ? await api.drone(player.id, { midi: root, chord: this.drone.chord, temperament, a4: this.a4 })
        : null;
      engine.drone(this.droning ? hz : null);
    } catch (error) {
      this.droning = false;
      this.trouble = words(error);
    }
  }

  /** A note in the middle of the instrument, high enough for small loudspeakers. */
  get usualDrone(): number {
    const middle = this.notes[this.notes.length >> 1]?.midi ?? LOWEST_DRONE;
    return middle + 12 * Math.ceil(Math.max(0, LOWEST_DRONE - middle) / 12);
  }

  close(): void {
    this.#closed = true;
    clearInterval(this.#looks);
    this.#metronome?.stop();
    this.#metronome = null;
    void this.#link?.end();
    void this.#engine?.then((engine) => engine.close());
  }

  async #ready(): Promise<Engine> {
    this.#engine ??= Engine.open();
    const engine = await this.#engine;
    await engine.context.resume();
    return engine;
  }
}

const LOST = 'The connection was lost. What you play is kept and sent when it’s back.';
