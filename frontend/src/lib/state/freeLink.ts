/** The line to the server while somebody just plays. It comes back by itself; what was not acknowledged is sent again. */
import { readFrames, type FramesMessage } from '../api/frames';
import { BlockLine, newKey } from '../audio/blocks';
import type { DeviceFacts, SourceKind } from '../audio/engine';
import { PROTOCOL } from './messages';

export type FreeTold =
  | FramesMessage
  | { type: 'listening'; protocol: number }
  | { type: 'part'; take: string; number: number; playing_s: number }
  | { type: 'full'; received: number; message: string }
  | { type: 'ended' }
  | { type: 'error'; kind: string; message: string };

export type FreeStream = {
  session: string;
  rate: number;
  source: SourceKind;
  keepSound: boolean;
  facts: DeviceFacts;
};

const RETRY_MS = 700;
const ENDING_MS = 20_000; // so long the last part may be read before the page goes on without it

export class FreeLink {
  readonly line: BlockLine;
  #socket: WebSocket | null = null;
  #open = false;
  #closed = false;
  #ended: (() => void) | null = null;

  constructor(
    readonly stream: FreeStream,
    readonly on: { told: (message: FreeTold) => void; lost: () => void },
  ) {
    this.line = new BlockLine(newKey(), 0);
    this.#connect();
  }

  send(samples: Float32Array): void {
    const block = this.line.add(samples, performance.now());
    if (this.#open) this.#socket?.send(this.line.encode(block));
  }

  /** The sound is over; resolved when everything is read. */
  async end(): Promise<void> {
    if (!this.#open) return this.close();
    const ended = new Promise<void>((resolve) => (this.#ended = resolve));
    this.#socket?.send(JSON.stringify({ type: 'end' }));
    await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, ENDING_MS))]);
    this.close();
  }

  close(): void {
    this.#closed = true;
    this.#open = false;
    this.#socket?.close();
  }

  #connect(): void {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/free-live`);
    socket.binaryType = 'arraybuffer';
    this.#socket = socket;
    socket.onopen = () => {
      const { session, rate, source, keepSound, facts } = this.stream;
      const first = { type: 'listen', protocol: PROTOCOL, session, rate, source, keep_sound: keepSound, device: facts };
      socket.send(JSON.stringify(first));
    };
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => this.#told(event.data);
    socket.onclose = () => {
      this.#open = false;
      this.#ended?.();
      if (this.#closed) return;
      this.on.lost();
      setTimeout(() => !this.#closed && this.#connect(), RETRY_MS);
    };
  }

  #told(data: string | ArrayBuffer): void {
    const message = typeof data === 'string' ? (JSON.parse(data) as FreeTold) : readFrames(data);
    if (message.type === 'listening') {
      this.#open = true;
      this.#again(0);
    } else if (message.type === 'frames') {
      if (message.hole) this.#again(message.received);
      else this.line.acknowledge(message.received);
    } else if (message.type === 'full') setTimeout(() => this.#again(message.received), 2000);
    else if (message.type === 'ended') this.#ended?.();
    this.on.told(message);
  }

  #again(received: number): void {
    if (this.#open) for (const block of this.line.from(received)) this.#socket?.send(this.line.encode(block));
  }
}
