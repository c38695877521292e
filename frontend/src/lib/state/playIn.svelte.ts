/** Plays an exercise in once: a bar of clicks, then what is played until it is stopped; the server makes notes of it. */
import { api } from '../api/client';
import { Engine } from '../audio/engine';
import { household } from './household.svelte';
import { words } from './loaded.svelte';

const MOST_S = 58; // the server takes a minute
const SIMULATED_S = 12;

export class PlayIn {
  running = $state<'no' | 'count-in' | 'playing' | 'reading'>('no');
  trouble = $state<string | null>(null);
  #engine: Engine | null = null;
  #blocks: Float32Array[] = [];
  #timers: ReturnType<typeof setTimeout>[] = [];
  #asked: { player: string; tempo: number } | null = null;

  /** Begins with a bar of clicks. */
  async start(player: string, tempo: number, beatsPerBar: number, done: (line: string) => void): Promise<void> {
    if (this.running !== 'no') return;
    [this.running, this.trouble, this.#blocks] = ['count-in', null, []];
    this.#asked = { player, tempo };
    try {
      const engine = (this.#engine = await Engine.open());
      const wav = household.source === 'simulated' ? await api.playFreely(player, SIMULATED_S) : null;
      if (!wav) await engine.useMicrophone(household.deviceId);
      const first = engine.context.currentTime + 0.2;
      for (let beat = 0; beat < beatsPerBar; beat++)
        engine.click(first + (beat * 60) / tempo, beat === 0 ? 'first' : 'beat');
      const start = first + (beatsPerBar * 60) / tempo;
      if (wav) await engine.playSimulated(wav, start);
      // Half a beat early is still the first note.
      this.#after(start - 30 / tempo - engine.context.currentTime, () => {
        this.running = 'playing';
        engine.onBlock = (block) => this.#blocks.push(block.samples);
      });
      this.#after(start + MOST_S - engine.context.currentTime, () => void this.stop(done));
    } catch (error) {
      this.#fail(error);
    }
  }

  /** Ends it and reads what was played. */
  async stop(done: (line: string) => void): Promise<void> {
    const engine = this.#engine;
    if (!engine || !this.#asked) return;
    const heard = this.running === 'playing';
    this.#close();
    if (!heard) return;
    this.running = 'reading';
    try {
      const samples = new Blob(this.#blocks.map((part) => part as BlobPart));
      done((await api.playedLine(this.#asked.player, this.#asked.tempo, samples, engine.rate)).line);
    } catch (error) {
      this.trouble = words(error);
    } finally {
      this.running = 'no';
    }
  }

  /** Lets go of the microphone when the page is left. */
  dispose(): void {
    this.#close();
  }

  #after(seconds: number, then: () => void): void {
    this.#timers.push(setTimeout(then, Math.max(0, 1000 * seconds)));
  }

  #close(): void {
    this.#timers.forEach(clearTimeout);
    this.#timers = [];
    this.#engine?.close();
    this.#engine = null;
    this.running = 'no';
  }

  #fail(error: unknown): void {
    this.#close();
    this.trouble = words(error);
  }
}
