/** The window's line to the server: says hello, comes back by itself when it was lost, and may take the session over. */
import { readFrames } from '../api/frames';
import { newKey } from '../audio/blocks';
import { PROTOCOL, type Incoming } from './messages';

const RETRY_MS = 700;

export class Link {
  #socket: WebSocket | null = null;
  #closed = false;
  #takingOver = false;
  /** Once the server has said welcome; until then only the hello goes out. */
  #welcomed = false;
  #retry: ReturnType<typeof setTimeout> | null = null;

  constructor(
    readonly session: string,
    readonly on: { told: (message: Incoming) => void; lost: () => void },
  ) {}

  connect(): void {
    if (this.#closed) return;
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`);
    socket.binaryType = 'arraybuffer';
    this.#socket = socket;
    socket.onopen = () => this.#hello();
    socket.onmessage = (event: MessageEvent<string | ArrayBuffer>) => {
      if (this.#socket === socket && !this.#closed) this.on.told(read(event.data));
    };
    socket.onclose = () => {
      if (this.#closed || this.#socket !== socket) return;
      this.#welcomed = false;
      this.on.lost();
      this.#retry = setTimeout(() => this.connect(), RETRY_MS);
    };
  }

  send(data: string | ArrayBuffer): void {
    if (this.#welcomed && this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(data);
  }

  /** The server knows this window now; with a token it leads, and is known by it after a reload. */
  welcome(token: string | null): void {
    this.#welcomed = true;
    if (token) sessionStorage.setItem(this.#key, token);
  }

  takeOver(): void {
    this.#takingOver = true;
    this.#socket?.close();
  }

  /** Say hello anew: nobody leads any more. */
  again(): void {
    this.#socket?.close();
  }

  close(): void {
    this.#closed = true;
    if (this.#retry !== null) clearTimeout(this.#retry);
    this.#socket?.close();
  }

  get #key(): string {
    return `orexis.owner.${this.session}`;
  }

  #hello(): void {
    // Of this window's own making: where the answer to a first hello is lost, the next one is known by it.
    const token = sessionStorage.getItem(this.#key) ?? newKey();
    sessionStorage.setItem(this.#key, token);
    const hello = { type: 'hello', protocol: PROTOCOL, session: this.session, token, take_over: this.#takingOver };
    this.#socket?.send(JSON.stringify(hello));
    this.#takingOver = false;
  }
}

function read(data: string | ArrayBuffer): Incoming {
  return typeof data === 'string' ? (JSON.parse(data) as Incoming) : readFrames(data);
}
