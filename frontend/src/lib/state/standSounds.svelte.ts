/** What is sounded and sung before a take: the first note, a drone, the note sung back. */
import { api, type FigureView } from '../api/client';
import type { Engine } from '../audio/engine';

const REFERENCE_S = 1.6;
const SUNG_MS = 3000;

export class StandSounds {
  /** What was sung, in words. */
  sung = $state<string | null>(null);
  singing = $state(false);
  drone = $state<number | null>(null);
  #sample: Float32Array[] | null = null;

  constructor(
    readonly session: string,
    readonly engine: () => Promise<Engine>,
    readonly figure: () => FigureView | null,
    readonly failed: (error: unknown) => void,
  ) {}

  /** A block that was heard, for whoever is singing. */
  add(samples: Float32Array): void {
    this.#sample?.push(samples);
  }

  /** The first note, sounded. */
  async hearIt(): Promise<void> {
    const note = this.figure()?.notes[0];
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

  /** Another figure: nothing of the last one stays. */
  forget(): void {
    this.sung = null;
    if (this.drone !== null) void this.setDrone(null);
  }
}
