/** The last second before a take: nothing else is kept between takes. Also hears when somebody begins to play. */
import type { Block } from './engine';

const KEEP_S = 1;
const OVER_NOISE_DB = 14;
const LEAST_DB = -52;
const STEADY_S = 0.12;

export function levelDb(samples: Float32Array): number {
  let sum = 0;
  for (const value of samples) sum += value * value;
  return 10 * Math.log10(Math.max(sum / Math.max(1, samples.length), 1e-12));
}

export class Preroll {
  #blocks: Block[] = [];
  #noise = -70;
  #loud = 0;

  constructor(readonly rate: number) {}

  /** Takes a block; true once something has been sounding for a moment. */
  add(block: Block): boolean {
    this.#blocks.push(block);
    let kept = this.#blocks.reduce((sum, item) => sum + item.samples.length, 0);
    while (this.#blocks.length > 1 && kept - (this.#blocks[0]?.samples.length ?? 0) >= KEEP_S * this.rate) {
      kept -= this.#blocks.shift()?.samples.length ?? 0;
    }
    const level = levelDb(block.samples);
    const loud = level > Math.max(LEAST_DB, this.#noise + OVER_NOISE_DB);
    this.#loud = loud ? this.#loud + block.samples.length / this.rate : 0;
    // The room's own level follows slowly, and never a tone.
    if (!loud) this.#noise += 0.02 * (level - this.#noise);
    return this.#loud >= STEADY_S;
  }

  /** Whether the last block was loud. */
  get sounding(): boolean {
    return this.#loud > 0;
  }

  /** How long it has been sounding, in seconds. */
  get soundedS(): number {
    return this.#loud;
  }

  take(): Block[] {
    const out = this.#blocks;
    this.#blocks = [];
    this.#loud = 0;
    return out;
  }
}
