/** Hears for the stand: opens the microphone or plays the simulated player, keeps the last second, cuts takes into blocks
 *  and keeps every block until it is acknowledged.
 *
 *  It may be disposed of at any moment: whatever is still being opened then is closed as soon as it is there. */
import { BlockLine } from './blocks';
import { Engine, type Block, type DeviceFacts, type SourceKind } from './engine';
import { Preroll } from './preroll';

const FULL_RETRY_MS = 2000; // so long after the disk was full it is tried again

export type TakeStart = {
  key: string;
  source: SourceKind;
  /** Where the count-in's first beat lies, in samples from the first that is sent. */
  firstBeat: number;
  clicked: boolean;
  rate: number;
  facts: DeviceFacts;
};

export type RecorderEvents = {
  started: (take: TakeStart) => void;
  block: (bytes: ArrayBuffer) => void;
  samples: (samples: Float32Array) => void;
  /** Heard outside a take: seconds, and whether something sounded. */
  between: (seconds: number, sounding: boolean) => void;
  gone: () => void;
};

export class Disposed extends Error {}

export class Recorder {
  #opening: Promise<Engine> | null = null;
  #engine: Engine | null = null;
  #disposed = false;
  #line: BlockLine | null = null;
  #waiting: { key: string; source: SourceKind; firstNoteS: number | null } | null = null;
  #first: number | null = null; // context time of the first beat
  #preroll: Preroll | null = null;
  #heldUntil = 0;

  constructor(
    readonly on: RecorderEvents,
    readonly open: () => Promise<Engine> = () => Engine.open(),
  ) {}

  /** The engine, opened when first wanted. */
  async ready(): Promise<Engine> {
    this.#opening ??= this.open();
    const engine = await this.#opening;
    if (this.#disposed) {
      engine.close();
      throw new Disposed();
    }
    if (this.#engine !== engine) {
      this.#engine = engine;
      engine.onBlock = (block) => this.#heard(block);
      engine.onGone = () => this.on.gone();
    }
    await engine.context.resume();
    return engine;
  }

  async listen(deviceId: string | null): Promise<Engine> {
    const engine = await this.ready();
    await engine.useMicrophone(deviceId);
    if (this.#disposed) throw new Disposed();
    return engine;
  }

  /** Whether a take waits for its first beat or its first note. */
  get waiting(): boolean {
    return this.#waiting !== null;
  }

  /** Whether a take is being cut into blocks. */
  get recording(): boolean {
    return this.#line !== null;
  }

  /** Context time of the first beat; null while none is set. */
  get first(): number | null {
    return this.#first;
  }

  /** Seconds into the sound of the take, by the engine's clock. */
  get now(): number | null {
    if (!this.#engine || !this.#line) return null;
    return this.#engine.context.currentTime - this.#line.frame0 / this.#engine.rate;
  }

  /** A take of this key comes: at the beat that `at` names, or with the first note, written `firstNoteS` after the beat. */
  arm(key: string, source: SourceKind, firstNoteS: number | null = null): void {
    this.#waiting = { key, source, firstNoteS };
    this.#first = null;
  }

  at(first: number): void {
    this.#first = first;
  }

  disarm(): void {
    this.#waiting = null;
  }

  /** The take is over, or is not to be. `clicksOn`: the click goes on to the next one. */
  stop(clicksOn = false): void {
    this.#line = null;
    this.#waiting = null;
    this.#first = null;
    this.#heldUntil = 0;
    this.#engine?.hush(clicksOn);
  }

  /** So many samples are safe; what is missing is sent again. */
  acknowledge(received: number, hole: boolean): void {
    if (!this.#line) return;
    if (hole) this.#sendFrom(received);
    else if (this.#heldUntil && this.#line.acknowledge(received)) this.#sendFrom(received);
    else this.#line.acknowledge(received);
  }

  /** The other side takes nothing for now (a full disk): blocks are kept here, and one is tried again after a while. */
  hold(received: number, now = performance.now()): void {
    this.#line?.acknowledge(received);
    this.#heldUntil = now + FULL_RETRY_MS;
  }

  /** After a lost connection: everything that was not acknowledged. */
  resume(received: number): void {
    this.#sendFrom(received);
  }

  /** When the sample left the worklet, for measuring how quickly a frame comes back. */
  leftAt(sample: number): number | null {
    return this.#line?.leftAt(sample) ?? null;
  }

  dispose(): void {
    this.#disposed = true;
    this.stop();
    this.#engine?.close();
    this.#engine = null;
  }

  #sendFrom(received: number): void {
    const line = this.#line;
    this.#heldUntil = 0;
    if (line) for (const block of line.from(received)) this.on.block(line.encode(block));
  }

  #heard(block: Block): void {
    if (this.#disposed) return;
    this.on.samples(block.samples);
    if (this.#waiting && this.#first !== null) this.#start(block.frame, true);
    if (!this.#line) this.#between(block);
    if (this.#line) this.#post(block.samples);
  }

  /** Outside a take: the last second is kept; a first note begins a take that waits for one. */
  #between(block: Block): void {
    const engine = this.#engine;
    if (!engine?.listening) return;
    this.#preroll ??= new Preroll(engine.rate);
    const begun = this.#preroll.add(block);
    this.on.between(block.samples.length / engine.rate, this.#preroll.sounding);
    const firstNoteS = this.#waiting?.firstNoteS ?? null;
    if (!begun || firstNoteS === null) return;
    const onset = block.frame + block.samples.length - this.#preroll.soundedS * engine.rate;
    const kept = this.#preroll.take();
    this.#first = onset / engine.rate - firstNoteS;
    this.#start(kept[0]?.frame ?? block.frame, false);
    // The block at hand is the last of those kept; it goes its usual way.
    for (const item of kept.slice(0, -1)) this.#post(item.samples);
  }

  #start(frame: number, clicked: boolean): void {
    const engine = this.#engine;
    if (!engine || !this.#waiting || this.#first === null) return;
    const { key, source } = this.#waiting;
    this.#waiting = null;
    this.#preroll = null;
    this.#line = new BlockLine(key, frame);
    const firstBeat = Math.round(this.#first * engine.rate) - frame;
    this.on.started({ key, source, firstBeat, clicked, rate: engine.rate, facts: engine.facts });
  }

  #post(samples: Float32Array): void {
    const line = this.#line;
    if (!line) return;
    const now = performance.now();
    const block = line.add(samples, now);
    if (!this.#heldUntil) this.on.block(line.encode(block));
    else if (now >= this.#heldUntil) {
      this.#heldUntil = now + FULL_RETRY_MS;
      const oldest = line.waiting[0];
      if (oldest) this.on.block(line.encode(oldest));
    }
  }
}
