import { describe, expect, it } from 'vitest';
import type { DayBlock, ExerciseView, Goal, Measures, TraceOut, Verdict } from '../api/client';
import { BlockLine, newKey } from '../audio/blocks';
import { grantedInWords, warningsFor } from '../audio/engine';
import { Preroll } from '../audio/preroll';
import { clicksOf, inPhase } from '../audio/tones';
import slur from '../fixtures/slur.json';
import { minutesInWords, planInWords } from './dayline';
import { holiday, dateAtRisk, forecastInWords, isoOf, weekday } from './weeks';
import { anchorsOf, timeIn } from './overlay';
import { sceneOf } from './lanes';
import { bothWays, rangeBars, rangeInWords } from './range';
import { cents, emptyTrack, extend, recentCents } from './track';
import {
  centsInWords,
  day,
  followedInWords,
  isQuiet,
  noteName,
  overruledInWords,
  reasonInWords,
  seconds,
} from './words';

// Written by the back end's own code (scripts/write_fixtures.py): the two cannot drift.
const exercise = slur.exercise as unknown as ExerciseView;
const trace = slur.trace as unknown as TraceOut;
const verdict = slur.verdict as unknown as Verdict;
const measures = slur.measures as unknown as Measures;

describe('lanes', () => {
  const scene = sceneOf(exercise, { width: 1000, height: 400, left: 100, firstBeat: 0, now: null });

  it('puts higher notes higher and equal ratios equally far apart', () => {
    expect(scene.yOf(200)).toBeLessThan(scene.yOf(100));
    expect(scene.yOf(100) - scene.yOf(150)).toBeCloseTo(scene.yOf(150) - scene.yOf(225), 6);
  });

  it('lays each bar on its lane, where the click asks for it', () => {
    expect(scene.bars).toHaveLength(3);
    const lane = scene.lanes.find((item) => item.partial === 3);
    expect(scene.bars[0]?.y).toBeCloseTo(lane?.y ?? 0, 1);
    expect(scene.bars[1]?.x).toBeCloseTo(scene.xOf(exercise.notes[1]?.start_s ?? 0), 6);
    expect(scene.bars[0]!.x + scene.bars[0]!.width).toBeLessThanOrEqual(scene.bars[1]!.x);
  });

  it('shows the slots on either side, for what may be caught', () => {
    expect(scene.lanes.map((lane) => lane.partial)).toEqual([2, 3, 4]);
    expect(scene.strip).not.toBeNull();
  });

  it('zooms a single note to sixty cents and follows the last ten seconds', () => {
    const one = { ...exercise, notes: exercise.notes.slice(0, 1) };
    const zoomed = sceneOf(one, { width: 1000, height: 400, left: 100, firstBeat: 0, now: 30 });
    const hz = one.notes[0]!.expected_hz;
    expect(zoomed.zoomed).toBe(true);
    expect(zoomed.yOf(hz * 2 ** (60 / 1200))).toBeCloseTo(10, 1);
    expect(zoomed.xOf(20)).toBeCloseTo(100, 6);
  });
});

describe('the track', () => {
  it('keeps final frames and replaces guesses', () => {
    const track = emptyTrack();
    const part = (first_s: number, f0_hz: (number | null)[]): TraceOut => ({
      first_s,
      hop_s: 0.005,
      f0_hz,
      level_db: f0_hz.map(() => -20),
      tone_to_noise_db: f0_hz.map(() => 30),
      confidence: f0_hz.map(() => 1),
    });
    extend(track, part(0, [100, 101]), part(0.01, [55, 55, 55]));
    expect(track.f0).toEqual([100, 101, 55, 55, 55]);
    extend(track, part(0.01, [102]), part(0.015, [103]));
    expect(track.f0).toEqual([100, 101, 102, 103]);
    expect(track.finals).toBe(3);
  });

  it('draws no pitch from a note that has ended or was never clear', () => {
    const track = emptyTrack();
    const trace: TraceOut = {
      first_s: 0,
      hop_s: 0.005,
      f0_hz: [220, 220, 224, 220],
      level_db: [-20, -20, -50, -21],
      tone_to_noise_db: [30, 30, 3, 0],
      confidence: [0.99, 0.99, 0.7, 0.5],
    };
    extend(track, trace, null);
    expect(track.f0).toEqual([220, 220, null, null]);
  });

  it('says how far off the last half second was', () => {
    const track = emptyTrack();
    extend(track, { ...trace, first_s: 0 }, null);
    track.f0 = Array.from({ length: 200 }, () => 100 * 2 ** (-9 / 1200));
    expect(recentCents(track, 100, 0.5)).toBeCloseTo(-9, 6);
    expect(recentCents(emptyTrack(), 100, 0.5)).toBeNull();
    expect(cents(200, 100)).toBeCloseTo(1200);
  });
});

describe('words', () => {
  it('writes notes as players do', () => {
    expect(noteName('Bb3')).toBe('B♭3');
    expect(noteName('F#4')).toBe('F♯4');
    expect(noteName('no note')).toBe('no note');
  });

  it('says cents with their direction', () => {
    expect(centsInWords(-8.7)).toBe('9 cents flat');
    expect(centsInWords(4.2)).toBe('4 cents sharp');
    expect(centsInWords(0.3)).toBe('in tune');
    expect(centsInWords(null)).toBe('–');
  });

  it('names what the back end found, where, and how far', () => {
    expect(verdict.outcome).toBe('not_yet');
    const name = (id: string) => noteName(exercise.notes.find((note) => note.id === id)?.written ?? id);
    expect(reasonInWords(verdict, name)).toBe('There was a gap of 0.1 s before E♭2.');
    expect(measures.moves[0]?.gap_ms).toBeGreaterThan(100);
  });

  it('has a sentence for every outcome', () => {
    expect(reasonInWords({ ...verdict, outcome: 'clean', reason: null }, String)).toMatch(/\.$/);
    const silent: Verdict = { ...verdict, outcome: 'not_heard', reason: 'silence', value: null, note: null };
    expect(reasonInWords(silent, String)).toBe('No sound reached the microphone.');
  });

  it('counts time', () => {
    expect(seconds(38)).toBe('38 s');
    expect(seconds(125)).toBe('2 min 05 s');
    expect(day('2026-03-04T10:00:00', new Date('2026-03-05T08:00:00'))).toMatch(/^Yesterday, /);
  });
});

describe('what the record says', () => {
  const history = [
    { day: '2026-03-02', low: null, high: null },
    { day: '2026-03-09', low: 50, high: 60 },
    { day: '2026-03-16', low: 48, high: 61, alone_low: 48, alone_high: 61, joined_low: 50, joined_high: 57 },
  ].map((item) => ({ alone_low: null, alone_high: null, joined_low: null, joined_high: null, ...item }));

  it('shows how far it reached, week by week', () => {
    const shown = rangeBars(history, 55, { width: 364, height: 150, left: 64 });
    expect(shown.bars.map((bar) => bar.day)).toEqual(['2026-03-09', '2026-03-16']);
    const [then, now] = shown.bars;
    expect((now?.height ?? 0) / (then?.height ?? 1)).toBeCloseTo(14 / 11);
    expect(now?.top ?? 0).toBeLessThan(then?.top ?? 0);
    expect((now?.top ?? 0) + (now?.height ?? 0)).toBeLessThanOrEqual(150);
    expect(shown.edges.map((edge) => edge.midi)).toEqual([61, 48]);
    expect(rangeInWords(history, String)).toBe('48 to 61 now; 50 to 60 on 9 March.');
    expect(rangeInWords([], String)).toBe('');
    // What is in_range along lines lies inside.
    expect(then?.line).toBeNull();
    expect((now?.line?.height ?? 0) / (now?.height ?? 1)).toBeCloseTo(8 / 14);
    expect(bothWays(history.at(-1), String)).toBe('On their own 48 to 61; in slurs and scales 50 to 57.');
    expect(bothWays(history.at(1), String)).toBe('On their own nothing yet; in slurs and scales nothing yet.');
  });

  it('counts what was overruled', () => {
    const again = { advised: 'back', chosen: 'again' } as const;
    expect(overruledInWords([again, again, { advised: 'next', chosen: 'skip' }])).toEqual([
      'Suggested: a step back; you chose a repeat (2 times).',
      'Suggested: the next one; you chose the next exercise.',
    ]);
  });

  it('says on the button what following the advice does', () => {
    expect(['again', 'back', 'easier', 'next', 'end-block'].map((step) => followedInWords(step, false))).toEqual([
      'Repeat',
      'Step back',
      'Easier',
      'Continue',
      'Next exercise',
    ]);
    expect(followedInWords('end-block', true)).toBe('End');
    expect(followedInWords(null, false)).toBe('Continue');
  });

  it('knows the quiet hours', () => {
    const at = (hour: number) => new Date(2026, 2, 2, hour, 30);
    expect([20, 21, 23, 3, 6, 7, 12].map((hour) => isQuiet(21, at(hour)))).toEqual([
      false,
      true,
      true,
      true,
      true,
      false,
      false,
    ]);
    expect(isQuiet(null, at(23))).toBe(false);
  });

  it('says where a note rang', () => {
    const rang: Verdict = { ...verdict, outcome: 'clean', reason: null, note: 'n1', value: -9.4, unit: 'c' };
    expect(reasonInWords(rang, () => 'B♭2')).toBe('B♭2 rang best 9 cents flat.');
    expect(reasonInWords({ ...rang, value: 0.5 }, () => 'B♭2')).toBe('B♭2 rang best on the target.');
  });
});

describe('blocks on their way', () => {
  it('keeps what is not acknowledged and sends it again from a hole', () => {
    const line = new BlockLine(newKey(), 1000);
    for (let i = 0; i < 4; i++) line.add(new Float32Array(100), i);
    line.acknowledge(250);
    expect(line.waiting.map((block) => block.start)).toEqual([200, 300]);
    expect(line.from(300).map((block) => block.start)).toEqual([300]);
    expect(line.leftAt(150)).toBe(1);
    expect(line.key).toMatch(/^[0-9a-f]{32}$/);
  });

  it('writes the head of the live protocol', () => {
    const line = new BlockLine(newKey(), 1000);
    line.add(new Float32Array(100), 0);
    const view = new DataView(line.encode(line.add(new Float32Array([0.5, -0.5]), 1)));
    expect([view.getUint32(0, true), view.getUint32(4, true), view.getFloat64(8, true)]).toEqual([0, 100, 1100]);
    expect([view.getFloat32(16, true), view.byteLength]).toEqual([0.5, 24]);
  });
});

describe('device', () => {
  it('warns of processing that stays on', () => {
    expect(warningsFor({ label: 'Desk', echo_cancellation: true, noise_suppression: false })).toHaveLength(1);
    expect(warningsFor({ label: 'Bluetooth headset' })).toHaveLength(1);
    expect(warningsFor({ label: 'Desk' })).toEqual([]);
    expect(grantedInWords({ label: 'Desk', echo_cancellation: false, noise_suppression: true })).toBe(
      'Desk: echo cancellation off, noise suppression on, automatic level off',
    );
  });
});

describe('tones that sound with a line', () => {
  it('begin when they are due, or whole periods later', () => {
    expect(inPhase(5, 4, 220)).toBe(5);
    const late = inPhase(5, 5.3, 220);
    expect(late).toBeGreaterThanOrEqual(5.3);
    expect(late).toBeLessThan(5.3 + 1 / 220);
    const periods = (late - 5) * 220;
    expect(periods).toBeCloseTo(Math.round(periods), 9);
  });
});

describe('clicks', () => {
  it('marks first beats, divides beats, and falls silent for bars but never in the count-in', () => {
    const plain = clicksOf(12, 4, 4, { parts: 1, accents: true, soundBars: 2, silentBars: 0 });
    expect(plain.map((item) => item.strength[0]).join('')).toBe('fbbbfbbbfbbb');
    const divided = clicksOf(4, 4, 4, { parts: 3, accents: false, soundBars: 2, silentBars: 0 });
    expect(divided.map((item) => item.beat)[1]).toBeCloseTo(1 / 3);
    expect(divided).toHaveLength(12);
    const silent = clicksOf(20, 4, 4, { parts: 1, accents: true, soundBars: 1, silentBars: 1 });
    expect(silent.map((item) => item.beat)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 12, 13, 14, 15]);
  });
});

describe('a take laid over another', () => {
  it('begins every note together with the one under it', () => {
    const notes = (starts: number[]) =>
      ({ notes: starts.map((onset_s, i) => ({ target: `n${i}`, onset_s, release_s: onset_s + 0.8 })) }) as Measures;
    const anchors = anchorsOf(notes([1, 2.5, 4]), notes([1.2, 2.2, 5]));
    expect(timeIn(anchors, 1.2)).toBeCloseTo(1);
    expect(timeIn(anchors, 2.2)).toBeCloseTo(2.5);
    expect(timeIn(anchors, 5)).toBeCloseTo(4);
    expect(timeIn([], 3)).toBe(3);
  });
});

describe('a day to scale', () => {
  it('is said in one sentence', () => {
    const block = (place: DayBlock['place'], minutes: number) => ({ place, minutes }) as DayBlock;
    expect(planInWords([block('tones', 10)])).toBe('10 minutes: long tones.');
    const all = (['breath', 'buzz', 'tones', 'slurs', 'music'] as const).map((place) => block(place, 6));
    expect(planInWords(all.slice(0, 3))).toBe('18 minutes: breathing, buzzing and long tones.');
    expect(planInWords(all)).toBe('30 minutes: breathing, buzzing, long tones and more.');
    expect([0.5, 2.5, 3].map(minutesInWords)).toEqual(['½ min', '2½ min', '3 min']);
  });
});

describe('a holiday', () => {
  it('is every date from the first to the last, and nothing the other way round', () => {
    expect(holiday('2026-12-30', '2027-01-01')).toEqual({ '2026-12-30': 0, '2026-12-31': 0, '2027-01-01': 0 });
    expect(holiday('2026-12-30', '2026-12-29')).toEqual({});
    expect(holiday('2026-12-30', '')).toEqual({});
    expect(Object.keys(holiday('2026-01-01', '2027-01-01'))).toHaveLength(92);
  });
});

describe('weeks in words', () => {
  const goal = (more: Partial<Goal>) =>
    ({
      state: 'on',
      date: '2027-01-10',
      median: '2027-01-20',
      low: '2026-12-30',
      high: null,
      ...more,
    }) as Goal;
  it('counts ordinal days as the server does', () => {
    expect(isoOf(739945)).toBe('2026-11-25');
    expect(weekday(739945)).toBe('Wednesday');
    expect(weekday(1)).toBe('Monday');
  });
  it('says when, how sure, and what would change it', () => {
    expect(forecastInWords(goal({}))).toBe('Likely by 20 January 2027 (between 30 December 2026 and much later).');
    expect(dateAtRisk(goal({ otherwise: 'practise 6 days a week' }))).toBe(
      'Not by 10 January 2027 at this rate: practise 6 days a week.',
    );
    expect(dateAtRisk(goal({ otherwise: null }))).toBeNull();
    expect(forecastInWords(goal({ state: 'reached', ended: '2026-12-24' }))).toBe('Reached on 24 December 2026.');
    expect(forecastInWords(goal({ median: null }))).toContain('five years');
    expect(forecastInWords(goal({ median: null, missing_days: 3 }))).toBe(
      'A likely date comes after 3 more days of practice.',
    );
  });
});

describe('the last second before a take', () => {
  it('keeps a second and hears when somebody begins', () => {
    const preroll = new Preroll(8000);
    const block = (frame: number, size: number) => ({
      frame,
      samples: Float32Array.from({ length: 160 }, (_, i) => size * Math.sin(i)),
    });
    for (let i = 0; i < 100; i++) expect(preroll.add(block(160 * i, 0.0003))).toBe(false);
    let begun = false;
    for (let i = 100; i < 110; i++) begun = preroll.add(block(160 * i, 0.1)) || begun;
    expect(begun).toBe(true);
    const kept = preroll.take().reduce((sum, item) => sum + item.samples.length, 0);
    expect(kept).toBeGreaterThanOrEqual(8000);
    expect(kept).toBeLessThan(8400);
  });
});
