/** The window's line to the server: says hello, comes back by itself when it was lost, and may take the session over. */
import type { Incoming } from './messages';

const RETRY_MS = 700;

export class Link {
  #socket: WebSocket | null = null;
  #closed = false;
  #takingOver = false;
  /** Set once the server has said welcome; until then only the hello goes out. */
  welcomed = false;

  constructor(
    readonly session: string,
    readonly on: { told: (message: Incoming) => void; lost: () => void },
  ) {}

  connect(): void {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`);
    socket.binaryType = 'arraybuffer';
    this.#socket = socket;
    socket.onopen = () => this.#hello();
    socket.onmessage = (event) => this.on.told(JSON.parse(event.data as string) as Incoming);
    socket.onclose = () => {
      this.welcomed = false;
      this.on.lost();
      if (!this.#closed) setTimeout(() => this.connect(), RETRY_MS);
    };
  }

  send(data: string | ArrayBuffer): void {
    if (this.welcomed && this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(data);
  }

  keepToken(token: string): void {
    sessionStorage.setItem(this.#key, token);
  }

  takeOver(): void {
    this.#takingOver = true;
    this.#socket?.close();
  }

  close(): void {
    this.#closed = true;
    this.#socket?.close();
  }

  get #key(): string {
    return `orexis.owner.${this.session}`;
  }

  #hello(): void {
    const token = sessionStorage.getItem(this.#key);
    const hello = { type: 'hello', protocol: 1, session: this.session, token, take_over: this.#takingOver };
    this.#socket?.send(JSON.stringify(hello));
    this.#takingOver = false;
  }
}
