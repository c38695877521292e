/** What is sounded, sung and blown before a take: the first note, a drone, the note sung back, the rhythm as air. */
import { api, type ExerciseView } from '../api/client';
import type { Engine } from '../audio/engine';
import { beatsOf, clickBeats, LEAD_S } from './counting';

const REFERENCE_S = 1.6;
const SUNG_MS = 3000;

export class StandSounds {
  /** What was sung, in words. */
  sung = $state<string | null>(null);
  singing = $state(false);
  drone = $state<number | null>(null);
  /** The beat of an exercise that is blown as air, from the count-in's first; null while none is. */
  blown = $state<number | null>(null);
  #sample: Float32Array[] | null = null;

  constructor(
    readonly session: string,
    readonly engine: () => Promise<Engine>,
    readonly exercise: () => ExerciseView | null,
    readonly failed: (error: unknown) => void,
  ) {}

  /** A block that was heard, for whoever is singing. */
  add(samples: Float32Array): void {
    this.#sample?.push(samples);
  }

  /** The first note, sounded. */
  async hearIt(): Promise<void> {
    const note = this.exercise()?.notes[0];
    if (note) await (await this.engine()).reference(note.expected_hz, REFERENCE_S);
  }

  async setDrone(hz: number | null): Promise<void> {
    this.drone = hz;
    (await this.engine()).drone(hz);
  }

  /** The first note sung, in any octave: what is not heard beforehand is seldom hit. */
  async singIt(deviceId: string | null): Promise<void> {
    if (this.singing) return;
    this.singing = true;
    this.sung = null;
    try {
      const engine = await this.engine();
      await engine.useMicrophone(deviceId);
      await this.hearIt();
      this.#sample = [];
      await new Promise((resolve) => setTimeout(resolve, SUNG_MS));
      const samples = new Blob(this.#sample.map((part) => part as BlobPart));
      this.sung = (await api.sung(this.session, samples, engine.rate)).said;
    } catch (error) {
      this.failed(error);
    } finally {
      this.#sample = null;
      this.singing = false;
    }
  }

  /** Whether something goes on that nobody should be led away from. */
  get busy(): boolean {
    return this.singing || this.blown !== null;
  }

  /** The exercise's rhythm as air alone, with the click; nothing is heard or judged. Once more stops it. */
  async blowIt(): Promise<void> {
    const exercise = this.exercise();
    if (this.blown !== null || !exercise) return this.stopBlowing();
    this.blown = 0;
    try {
      const engine = await this.engine();
      const first = engine.context.currentTime + LEAD_S;
      const beats = beatsOf(exercise);
      clickBeats(engine, exercise, first, beats.all);
      const tick = () => {
        if (this.blown === null || this.exercise() !== exercise) return;
        const beat = Math.floor((engine.context.currentTime - first) / exercise.beat_s);
        if (beat >= beats.all) return this.stopBlowing();
        this.blown = Math.max(0, beat);
        requestAnimationFrame(tick);
      };
      tick();
    } catch (error) {
      this.blown = null;
      this.failed(error);
    }
  }

  stopBlowing(): void {
    if (this.blown === null) return;
    this.blown = null;
    void this.engine().then((engine) => engine.hush());
  }

  /** Another exercise: nothing of the last one stays. */
  forget(): void {
    this.stopBlowing();
    this.sung = null;
    if (this.drone !== null) void this.setDrone(null);
  }
}
