import { beforeEach, describe, expect, it, vi } from 'vitest';
import { readFrames } from '../api/frames';
import type { Block, Engine } from './engine';
import { Disposed, Recorder, type TakeStart } from './recorder';

const RATE = 1000;

function engine() {
  const made = {
    rate: RATE,
    listening: true,
    facts: { label: 'desk' },
    context: { currentTime: 0, resume: () => Promise.resolve() },
    onBlock: null as ((block: Block) => void) | null,
    onGone: null as (() => void) | null,
    closed: false,
    useMicrophone: vi.fn(() => Promise.resolve()),
    hush: vi.fn(),
    close: () => (made.closed = true),
  };
  return made;
}

describe('the recorder', () => {
  let fake: ReturnType<typeof engine>;
  let sent: ArrayBuffer[];
  let started: TakeStart[];
  let recorder: Recorder;
  let frame: number;

  beforeEach(() => {
    fake = engine();
    [sent, started, frame] = [[], [], 0];
    recorder = new Recorder(
      {
        started: (take) => started.push(take),
        block: (bytes) => sent.push(bytes),
        samples: () => undefined,
        between: () => undefined,
        gone: () => undefined,
      },
      () => Promise.resolve(fake as unknown as Engine),
    );
  });

  const hear = (count = 1, loudness = 0) => {
    for (let i = 0; i < count; i++) {
      fake.onBlock?.({ frame, samples: new Float32Array(30).fill(loudness) });
      frame += 30;
    }
  };
  const startOf = (bytes: ArrayBuffer | undefined) => (bytes ? new DataView(bytes).getUint32(4, true) : -1);
  const take = async () => {
    await recorder.listen(null);
    recorder.arm('k', 'microphone');
    recorder.at(0.5);
    hear();
  };

  it('begins a take with the block after its beat was named, and says where the beat lies', async () => {
    await recorder.listen(null);
    hear(2);
    recorder.arm('k', 'microphone');
    hear();
    expect(sent).toHaveLength(0);
    recorder.at(0.6);
    hear();
    expect(started).toMatchObject([{ key: 'k', firstBeat: 600 - 90, clicked: true, facts: { label: 'desk' } }]);
    expect(sent).toHaveLength(1);
  });

  it('closes what it was still opening when it was disposed of', async () => {
    let opened: (made: Engine) => void = () => undefined;
    const slow = new Recorder(recorder.on, () => new Promise((resolve) => (opened = resolve)));
    const listening = slow.listen(null);
    slow.dispose();
    opened(fake as unknown as Engine);
    await expect(listening).rejects.toBeInstanceOf(Disposed);
    expect(fake.closed).toBe(true);
    expect(fake.useMicrophone).not.toHaveBeenCalled();
  });

  it('sends again what is missing, and everything after a lost connection', async () => {
    await take();
    hear(3);
    recorder.acknowledge(60, false);
    sent.length = 0;
    recorder.acknowledge(60, true);
    expect(sent.map(startOf)).toEqual([60, 90]);
    sent.length = 0;
    recorder.resume(0);
    expect(sent.map(startOf)).toEqual([60, 90]);
  });

  it('keeps blocks while the disk is full, tries one after a while, and goes on when there is room', async () => {
    vi.useFakeTimers({ toFake: ['performance'] });
    await take();
    recorder.hold(0);
    sent.length = 0;
    hear(20);
    expect(sent).toHaveLength(0);
    vi.advanceTimersByTime(2100);
    hear(10);
    expect(sent.map(startOf)).toEqual([0]);
    recorder.acknowledge(30, false);
    expect(sent).toHaveLength(1 + 30);
    vi.useRealTimers();
  });

  it('begins with the first note, the last second kept', async () => {
    await recorder.listen(null);
    recorder.arm('k', 'microphone', 2);
    hear(40);
    expect(started).toHaveLength(0);
    hear(6, 0.2);
    expect(started).toMatchObject([{ clicked: false }]);
    expect(sent.length).toBeGreaterThan(20);
    expect(recorder.recording).toBe(true);
    recorder.stop();
    expect([recorder.recording, recorder.first]).toEqual([false, null]);
  });
});

describe('frames', () => {
  it('are read as the server writes them', () => {
    const bytes = new ArrayBuffer(44 + 16 * 3);
    const view = new DataView(bytes);
    view.setUint32(0, 1, true);
    view.setUint32(4, 1, true);
    view.setBigUint64(8, 4321n, true);
    view.setFloat32(16, 0.5, true);
    view.setUint32(20, 2, true);
    view.setFloat64(24, 1.25, true);
    view.setUint32(32, 1, true);
    view.setFloat64(36, 1.26, true);
    new Float32Array(bytes, 44).set([220, NaN, -20, -60, 30, 0, 0.9, 0.1, 221, -21, 31, 0.8]);
    const read = readFrames(bytes);
    expect(read).toMatchObject({ received: 4321, hole: true, lateS: 0.5 });
    expect(read.final).toMatchObject({ first_s: 1.25, f0_hz: [220, null], level_db: [-20, -60] });
    expect(read.provisional.f0_hz).toEqual([221]);
    expect(() => readFrames(new ArrayBuffer(44))).toThrow('reload');
  });
});
