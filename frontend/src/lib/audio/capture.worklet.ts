/** Hands over mono sound in blocks, each with the context frame of its first sample. */
import { Gatherer } from './gather';

declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

class Capture extends AudioWorkletProcessor {
  private gatherer = new Gatherer();

  process(inputs: Float32Array[][]): boolean {
    for (const block of this.gatherer.add(currentFrame, inputs[0]?.[0])) {
      this.port.postMessage(block, [block.samples.buffer]);
    }
    return true;
  }
}

registerProcessor('orexis-capture', Capture);
