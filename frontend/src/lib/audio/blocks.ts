/** Blocks of one take on their way to the server: numbered, kept until acknowledged, sent again when asked. */
export type Sent = { start: number; samples: Float32Array; left: number };

const HEAD = 16;

export class BlockLine {
  readonly key: string;
  readonly frame0: number;
  total = 0;
  #waiting: Sent[] = [];
  #sequence = 0;
  #marks: { end: number; left: number }[] = [];

  constructor(key: string, frame0: number) {
    this.key = key;
    this.frame0 = frame0;
  }

  get waiting(): readonly Sent[] {
    return this.#waiting;
  }

  add(samples: Float32Array, now: number): Sent {
    const block = { start: this.total, samples, left: now };
    this.total += samples.length;
    this.#waiting.push(block);
    this.#marks.push({ end: this.total, left: now });
    if (this.#marks.length > 400) this.#marks.shift();
    return block;
  }

  /** Forgets what is safe; whether there was anything of it. */
  acknowledge(received: number): boolean {
    const before = this.#waiting.length;
    this.#waiting = this.#waiting.filter((block) => block.start + block.samples.length > received);
    return this.#waiting.length < before;
  }

  from(received: number): Sent[] {
    this.acknowledge(received);
    return [...this.#waiting];
  }

  /** When the sample left the worklet, for measuring how quickly a frame comes back. */
  leftAt(sample: number): number | null {
    return this.#marks.find((mark) => mark.end > sample)?.left ?? null;
  }

  encode(block: Sent): ArrayBuffer {
    const bytes = new ArrayBuffer(HEAD + block.samples.length * 4);
    const view = new DataView(bytes);
    view.setUint32(0, this.#sequence++, true);
    view.setUint32(4, block.start, true);
    view.setFloat64(8, this.frame0 + block.start, true);
    new Float32Array(bytes, HEAD).set(block.samples);
    return bytes;
  }
}

export function newKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');
}
