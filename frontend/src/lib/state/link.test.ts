// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Link } from './link';
import type { Incoming } from './messages';

class FakeSocket {
  static OPEN = 1;
  static made: FakeSocket[] = [];
  readyState = 0;
  sent: (string | ArrayBuffer)[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  onclose: (() => void) | null = null;

  constructor(readonly url: string) {
    FakeSocket.made.push(this);
  }
  send(data: string | ArrayBuffer) {
    this.sent.push(data);
  }
  open() {
    this.readyState = 1;
    this.onopen?.();
  }
  close() {
    this.readyState = 3;
    this.onclose?.();
  }
}

describe('the line to the server', () => {
  const told: Incoming[] = [];
  let lost = 0;
  beforeEach(() => {
    FakeSocket.made = [];
    told.length = 0;
    lost = 0;
    sessionStorage.clear();
    vi.stubGlobal('WebSocket', FakeSocket);
    vi.useFakeTimers({ toFake: ['setTimeout'] });
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  const connected = () => {
    const link = new Link('s1', { told: (message) => told.push(message), lost: () => lost++ });
    link.connect();
    const socket = FakeSocket.made[0];
    if (!socket) throw new Error('no socket was opened');
    socket.open();
    return { link, socket };
  };
  const hello = (socket: FakeSocket | undefined) => JSON.parse(socket?.sent[0] as string) as Record<string, unknown>;

  it('says hello first and holds everything else back until it is welcome', () => {
    const { link, socket } = connected();
    expect(hello(socket)).toMatchObject({ type: 'hello', protocol: 2, session: 's1', take_over: false });
    link.send('too early');
    expect(socket.sent).toHaveLength(1);
    link.welcome(null);
    link.send('now');
    expect(socket.sent.at(-1)).toBe('now');
    socket.onmessage?.({ data: '{"type":"demoted"}' });
    expect(told).toEqual([{ type: 'demoted' }]);
  });

  it('is known by the same token where the answer to its first hello was lost', () => {
    const { socket } = connected();
    socket.close();
    vi.advanceTimersByTime(800);
    FakeSocket.made[1]?.open();
    expect(hello(socket).token).toMatch(/^[0-9a-f]{32}$/);
    expect(hello(FakeSocket.made[1]).token).toBe(hello(socket).token);
  });

  it('comes back with its token after the line was lost', () => {
    const { link, socket } = connected();
    link.welcome('t');
    socket.close();
    expect(lost).toBe(1);
    link.send('nobody hears this');
    expect(socket.sent).toHaveLength(1);
    expect(FakeSocket.made).toHaveLength(1);
    vi.advanceTimersByTime(800);
    FakeSocket.made[1]?.open();
    expect(hello(FakeSocket.made[1])).toMatchObject({ token: 't', take_over: false });
  });

  it('takes over once, when asked to', () => {
    const { link } = connected();
    link.takeOver();
    vi.advanceTimersByTime(800);
    FakeSocket.made[1]?.open();
    expect(hello(FakeSocket.made[1])['take_over']).toBe(true);
    FakeSocket.made[1]?.close();
    vi.advanceTimersByTime(800);
    FakeSocket.made[2]?.open();
    expect(hello(FakeSocket.made[2])['take_over']).toBe(false);
  });

  it('stays away once it was closed', () => {
    const { link } = connected();
    link.close();
    vi.advanceTimersByTime(5000);
    expect(FakeSocket.made).toHaveLength(1);
  });
});
