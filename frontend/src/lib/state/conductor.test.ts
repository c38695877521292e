// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Conductor } from './conductor.svelte';
import type { Stand } from './stand.svelte';

type Fake = {
  phase: string;
  state: Record<string, unknown> | null;
  running: boolean;
  owner: boolean;
  verdict: { outcome: string } | null;
  restedS: number;
  sounds: { busy: boolean };
  said: [string, unknown?][];
  say: (name: string, more?: unknown) => void;
  bars: number | null;
};

function fake(phase: string, more: Record<string, unknown> = {}): Fake {
  const stand: Fake = {
    phase,
    state: {
      phase,
      block: 0,
      exercise_index: 0,
      form: 'as written',
      checking: false,
      takes: [],
      paused: false,
      ...more,
    },
    running: true,
    owner: true,
    verdict: null,
    restedS: 0,
    sounds: { busy: false },
    said: [],
    bars: null,
    say: (name, said) => stand.said.push(said === undefined ? [name] : [name, said]),
  };
  return stand;
}

describe('leading without hands', () => {
  let begun = 0;
  let bars: number | null = null;
  beforeEach(() => {
    begun = 0;
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
  });
  afterEach(() => vi.useRealTimers());

  const leading = (stand: Fake, options: { goesOn?: boolean; speed?: number } = {}) => {
    const conductor = new Conductor(stand as unknown as Stand, {
      goesOn: () => options.goesOn ?? true,
      speed: () => options.speed ?? 1,
      source: () => 'microphone',
      begin: (after) => {
        begun++;
        bars = after;
      },
    });
    conductor.follow();
    return conductor;
  };

  it('waits three seconds before a count-in, and not before the player has begun once', () => {
    leading(fake('preview'));
    vi.advanceTimersByTime(2900);
    expect(begun).toBe(0);
    vi.advanceTimersByTime(300);
    expect(begun).toBe(1);
    leading({ ...fake('preview'), running: false });
    vi.advanceTimersByTime(10_000);
    expect(begun).toBe(1);
  });

  it('leaves more time to read what was missed than what was held', () => {
    const held = { ...fake('verdict'), verdict: { outcome: 'clean' } };
    leading(held);
    vi.advanceTimersByTime(2700);
    expect(held.said).toEqual([['go-on']]);
    const missed = { ...fake('verdict'), verdict: { outcome: 'not_yet' } };
    leading(missed);
    vi.advanceTimersByTime(4800);
    expect(missed.said).toEqual([]);
    vi.advanceTimersByTime(400);
    expect(missed.said).toEqual([['go-on']]);
  });

  it('leads nobody who pauses, watches, goes on by key, or sings and blows', () => {
    for (const stand of [fake('preview', { paused: true }), { ...fake('preview'), owner: false }]) leading(stand);
    leading(fake('preview'), { goesOn: false });
    vi.advanceTimersByTime(20_000);
    expect(begun).toBe(0);
    const busy = fake('preview');
    busy.sounds.busy = true;
    leading(busy);
    vi.advanceTimersByTime(20_000);
    expect(begun).toBe(0);
    busy.sounds.busy = false;
    vi.advanceTimersByTime(3300);
    expect(begun).toBe(1);
  });

  it('counts a rest down, from where it was after a reload, faster with the simulated player', () => {
    const stand = { ...fake('rest', { rest: { seconds: 40, heard_s: 0 } }), restedS: 15 };
    const conductor = leading(stand);
    expect(conductor.left).toBe(25);
    vi.advanceTimersByTime(24_800);
    expect(stand.said).toEqual([]);
    vi.advanceTimersByTime(400);
    expect(stand.said).toEqual([['rest-over']]);
    const quick = fake('rest', { rest: { seconds: 40, heard_s: 0 } });
    leading(quick, { speed: 20 });
    vi.advanceTimersByTime(2200);
    expect(quick.said).toEqual([['rest-over']]);
  });

  it('notices playing in a rest, tells it once it has stopped, and rests that much longer', () => {
    const stand = fake('rest', { rest: { seconds: 20, heard_s: 0 } });
    const conductor = leading(stand);
    for (let i = 0; i < 100; i++) conductor.heard(0.02, true);
    expect(stand.said).toEqual([]);
    conductor.heard(0.02, false);
    expect(stand.said).toEqual([['played', { seconds: 2 }]]);
    conductor.heard(0.02, true); // a knock
    conductor.heard(0.02, false);
    expect(stand.said).toHaveLength(1);
    stand.state = { ...stand.state, rest: { seconds: 22, heard_s: 2 } };
    conductor.follow();
    expect(conductor.total).toBe(22);
    vi.advanceTimersByTime(20_500);
    expect(stand.said).toHaveLength(1);
    vi.advanceTimersByTime(2000);
    expect(stand.said.at(-1)).toEqual(['rest-over']);
  });

  it('counts nobody in the moment a machine wakes, and lets a rest pass in its sleep', () => {
    const asleep = (ms: number) => {
      const woken = performance.now() + ms;
      vi.spyOn(performance, 'now').mockImplementation(() => woken);
      vi.advanceTimersByTime(100);
      vi.restoreAllMocks();
    };
    const stand = fake('preview');
    leading(stand);
    asleep(600_000);
    expect(begun).toBe(0);
    const resting = fake('rest', { rest: { seconds: 300, heard_s: 0 } });
    leading(resting);
    asleep(600_000);
    expect(resting.said).toEqual([['rest-over']]);
  });

  it('forgets what it waited for when the state changes', () => {
    const stand = fake('preview');
    const conductor = leading(stand);
    vi.advanceTimersByTime(2000);
    stand.phase = 'count-in';
    stand.state = { ...stand.state, phase: 'count-in' };
    conductor.follow();
    vi.advanceTimersByTime(5000);
    expect(begun).toBe(0);
    expect(conductor.left).toBeNull();
  });

  /** A stand whose click goes on, in bars of four seconds: the next exercise is `bars` bars after now. */
  const inTime = (phase: string, bars: number) => {
    const start = performance.now();
    const clock = () => (performance.now() - start) / 1000;
    const next = (ready: number) => 4 * Math.ceil((clock() + ready) / 4);
    const exercise = { beat_s: 1, count_in_s: 4, duration_s: 12, exercise: { beats_per_bar: 4 } };
    const prepared: string[] = [];
    return Object.assign(fake(phase), {
      bars,
      exercise,
      prepared,
      ready: true,
      prepare: (source: string) => prepared.push(source),
      inTime: {
        barS: 4,
        get clock() {
          return clock();
        },
        musicAt: (after: number, _: unknown, soonest = false) => (soonest ? next(4) : Math.max(4 * after, next(1))),
      },
    });
  };
  const moveOn = (stand: Fake) =>
    Object.assign(stand, { phase: 'preview', state: { ...stand.state, phase: 'preview', exercise_index: 1 } });

  it('goes on in time: the verdict for as long as the bars allow, the next exercise two bars ahead, then its count-in', () => {
    const stand = inTime('verdict', 4);
    const conductor = leading(stand);
    vi.advanceTimersByTime(7900);
    expect([stand.said, conductor.barsLeft]).toEqual([[], 3]);
    vi.advanceTimersByTime(200);
    expect(stand.said).toEqual([['go-on']]);
    moveOn(stand);
    conductor.follow();
    vi.advanceTimersByTime(3600);
    expect([stand.prepared, begun, conductor.barsLeft]).toEqual([['microphone'], 0, 2]);
    vi.advanceTimersByTime(200);
    expect([begun, bars]).toEqual([1, 4]);
  });

  it('begins with the next bar that can be counted in where the player does not want to wait', () => {
    const stand = inTime('verdict', 10);
    const conductor = leading(stand);
    vi.advanceTimersByTime(1000);
    conductor.sooner();
    vi.advanceTimersByTime(100);
    expect(stand.said).toEqual([['go-on']]);
    moveOn(stand); // what was said while the verdict was read holds for what follows
    conductor.follow();
    vi.advanceTimersByTime(2500);
    expect(begun).toBe(0);
    vi.advanceTimersByTime(300);
    expect([begun, bars]).toEqual([1, 0]);
  });
});
