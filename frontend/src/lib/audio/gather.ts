/** Gathers mono sound into blocks without holes: where the machine left sound out, silence stands for it, so that everything
 *  after it keeps its time. */
export type Block = { frame: number; samples: Float32Array<ArrayBuffer> };

export const QUANTUM = 128;
export const BLOCK = 10 * QUANTUM; // 29 ms at 44.1 kHz, 27 ms at 48 kHz
const LONGEST = 10 * 48_000; // frames: a longer hole is a new beginning

export class Gatherer {
  #block = new Float32Array(BLOCK);
  #filled = 0;
  #first = Infinity; // of the block that is being filled: nothing yet

  /** Takes what is heard from a context frame on, silence without `sound`; gives the blocks that became full. */
  add(frame: number, sound: Float32Array | undefined): Block[] {
    const out: Block[] = [];
    const missing = frame - this.#first - this.#filled;
    if (missing < 0 || missing > LONGEST) {
      this.#begin(frame);
    }
    while (this.#first + this.#filled < frame) this.#put(undefined, out);
    this.#put(sound, out);
    return out;
  }

  #put(sound: Float32Array | undefined, out: Block[]): void {
    if (sound) this.#block.set(sound, this.#filled);
    this.#filled += QUANTUM;
    if (this.#filled < BLOCK) return;
    out.push({ frame: this.#first, samples: this.#block });
    this.#begin(this.#first + BLOCK);
  }

  #begin(frame: number): void {
    this.#block = new Float32Array(BLOCK);
    this.#first = frame;
    this.#filled = 0;
  }
}
