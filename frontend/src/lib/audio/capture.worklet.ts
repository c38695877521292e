/** Gathers mono sound into blocks of about 30 ms and hands each over with the context frame of its first sample. */
const QUANTA = 10; // 10 * 128 frames: 29 ms at 44.1 kHz, 27 ms at 48 kHz

declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

class Capture extends AudioWorkletProcessor {
  private block = new Float32Array(QUANTA * 128);
  private filled = 0;
  private first = 0;

  process(inputs: Float32Array[][]): boolean {
    const input = inputs[0]?.[0];
    const size = input?.length ?? 128;
    if (this.filled === 0) this.first = currentFrame;
    if (input) this.block.set(input, this.filled);
    this.filled += size;
    if (this.filled >= this.block.length) {
      this.port.postMessage({ frame: this.first, samples: this.block }, [this.block.buffer]);
      this.block = new Float32Array(QUANTA * 128);
      this.filled = 0;
    }
    return true;
  }
}

registerProcessor('orexis-capture', Capture);
