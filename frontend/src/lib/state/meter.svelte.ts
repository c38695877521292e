/** The input's level and whether its peaks are cut off, in words. */
import { levelDb } from '../audio/preroll';

const QUIET_DB = -65;
const FALL_DB = 1.5; // for each block
const CLIPPED = 0.985;

export class InputMeter {
  db = $state<number | null>(null);
  clipped = $state(false);

  add(samples: Float32Array): void {
    const db = levelDb(samples);
    this.db = this.db === null ? db : Math.max(db, this.db - FALL_DB);
    if (samples.some((value) => Math.abs(value) >= CLIPPED)) this.clipped = true;
  }

  get word(): string {
    if (this.clipped) return 'too loud: the peaks are cut off';
    if (this.db === null) return '';
    const level = `${Math.round(this.db)} dB`;
    return this.db < QUIET_DB ? `silence, ${level}` : `sound arrives, ${level}`;
  }
}
