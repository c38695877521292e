import { describe, expect, it } from 'vitest';
import { inTempo, PLAIN_PULSE, Pulse, Taps, type PulseSettings } from './pulse';

function ticks(count: number, change: Partial<PulseSettings> = {}) {
  const pulse = new Pulse(10);
  return Array.from({ length: count }, () => pulse.next({ ...PLAIN_PULSE, ...change }));
}

describe('a metronome', () => {
  it('beats evenly, bar by bar', () => {
    const made = ticks(6, { tempo: 120, beats: 3 });
    expect(made.map((tick) => tick.at)).toEqual([10, 10.5, 11, 11.5, 12, 12.5]);
    expect(made.map((tick) => `${tick.bar}.${tick.beat}`)).toEqual(['0.0', '0.1', '0.2', '1.0', '1.1', '1.2']);
  });

  it('divides a beat', () => {
    const made = ticks(4, { tempo: 60, parts: 3 });
    expect(made.map((tick) => tick.part)).toEqual([0, 1, 2, 0]);
    expect(made[3]?.at).toBeCloseTo(11);
  });

  it('is silent for bars and comes back', () => {
    const made = ticks(24, { beats: 2, soundBars: 2, silentBars: 1 });
    expect(made.filter((tick) => tick.silent).map((tick) => tick.bar % 3)).toEqual(Array(8).fill(2));
  });

  it('rises by steps and stops at the top', () => {
    const made = ticks(40, { tempo: 100, beats: 4, riseBy: 10, riseBars: 2, riseTo: 125 });
    const byBar = made.filter((tick) => tick.beat === 0).map((tick) => tick.tempo);
    expect(byBar).toEqual([100, 100, 110, 110, 120, 120, 125, 125, 125, 125]);
  });

  it('keeps a change of tempo in time', () => {
    const pulse = new Pulse(0);
    pulse.next({ ...PLAIN_PULSE, tempo: 60 });
    pulse.next({ ...PLAIN_PULSE, tempo: 120 });
    expect(pulse.due).toBeCloseTo(1.5);
  });

  it('takes a tempo from taps and forgets old ones', () => {
    const taps = new Taps();
    expect(taps.tap(0)).toBeNull();
    expect(taps.tap(500)).toBe(120);
    expect(taps.tap(1010)).toBe(119);
    expect(taps.tap(9000)).toBeNull();
    expect(taps.tap(9750)).toBe(80);
  });

  it('stays within what is counted', () => {
    expect([inTempo(3), inTempo(999), inTempo(72.4)]).toEqual([20, 300, 72]);
  });
});
