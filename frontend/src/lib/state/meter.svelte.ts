/** The input's level and whether its peaks are cut off, in words. */
import { levelDb } from '../audio/preroll';

const QUIET_DB = -65;
const FALL_DB = 1.5; // for each block
const CLIPPED = 0.985;
const TOLD_EVERY = 12; // blocks, a quarter of a second: an exercise that changes faster cannot be read

export class InputMeter {
  db = $state<number | null>(null);
  clipped = $state(false);
  #now: number | null = null;
  #since = 0;

  add(samples: Float32Array): void {
    const db = levelDb(samples);
    this.#now = this.#now === null ? db : Math.max(db, this.#now - FALL_DB);
    if (this.#since++ % TOLD_EVERY === 0) this.db = this.#now;
    if (samples.some((value) => Math.abs(value) >= CLIPPED)) this.clipped = true;
  }

  get word(): string {
    if (this.clipped) return 'too loud: the peaks are cut off';
    if (this.db === null) return '';
    const level = `${Math.round(this.db)} dB`;
    return this.db < QUIET_DB ? `silence, ${level}` : `sound arrives, ${level}`;
  }
}
