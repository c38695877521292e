import { describe, expect, it } from 'vitest';
import type { ExerciseView, TraceOut } from '../api/client';
import slur from '../fixtures/slur.json';
import { InputMeter } from '../state/meter.svelte';
import { drawPlayer } from './draw';
import { sceneOf } from './lanes';
import type { Palette, Surface } from './pen';
import { emptyTrack, extend } from './track';

const exercise = slur.exercise as unknown as ExerciseView;
const track = emptyTrack();
extend(track, slur.trace as unknown as TraceOut, null); // from the third second on
const colours = { player: 'brass' } as Palette;

/** Remembers where a pen went: one list of points for each stroke. */
class Paper {
  strokes: { points: string[]; width: number }[] = [];
  lineWidth = 1;
  #points: string[] = [];
  beginPath() {
    this.#points = [];
  }
  moveTo(x: number, y: number) {
    this.#points = [`${x.toFixed(2)} ${y.toFixed(2)}`];
  }
  lineTo(x: number, y: number) {
    this.#points.push(`${x.toFixed(2)} ${y.toFixed(2)}`);
  }
  stroke() {
    this.strokes.push({ points: this.#points, width: this.lineWidth });
  }
  setLineDash() {}

  /** Every piece of line from one point to the next. */
  get pieces(): Set<string> {
    return new Set(
      this.strokes.flatMap(({ points }) => points.slice(1).map((point, i) => `${points[i] ?? ''} > ${point}`)),
    );
  }
}

describe('the player’s line', () => {
  const scene = sceneOf(exercise, { width: 1000, height: 400, left: 100, firstBeat: 0, now: null });
  const drawn = (...parts: [number, number][]) => {
    const paper = new Paper();
    for (const [from, to] of parts) {
      drawPlayer(paper as unknown as Surface, scene, track, colours, exercise, { from, to });
    }
    return paper;
  };

  it('lies where the pitch was heard', () => {
    const at = track.f0.findIndex((f0) => f0 !== null && f0 !== undefined) + 20;
    const y = scene.yOf(track.f0[at] ?? 0).toFixed(2);
    const x = scene.xOf(at * 0.005).toFixed(2);
    expect([...drawn([0, track.f0.length]).pieces].some((piece) => piece.includes(`${x} ${y}`))).toBe(true);
  });

  it('is the same line when it is drawn as it comes', () => {
    const end = track.f0.length;
    const whole = drawn([0, end]).pieces;
    const steps: [number, number][] = [];
    for (let from = 0; from < end - 1; from += 9) steps.push([from, Math.min(end, from + 10)]);
    const pieces = drawn(...steps).pieces;
    const missing = [...whole].filter((piece) => !pieces.has(piece));
    // Where a part begins its width is not known from the point before: at most the joints differ.
    expect(missing.length).toBeLessThan(0.02 * whole.size);
    expect(whole.size).toBeGreaterThan(300);
  });

  it('is wider where it is louder', () => {
    const widest = (level: number) => {
      const paper = new Paper();
      const loud = { ...track, level: track.level.map(() => level), tone: track.tone.map(() => 30) };
      drawPlayer(paper as unknown as Surface, scene, loud, colours, exercise);
      return Math.max(...paper.strokes.map((stroke) => stroke.width));
    };
    expect(widest(-12)).toBeGreaterThan(widest(-30));
    expect(widest(-30)).toBeGreaterThan(widest(-50));
  });
});

describe('the input’s level', () => {
  it('is told four times a second, and clipping at once', () => {
    const meter = new InputMeter();
    expect(meter.word).toBe('');
    const tone = new Float32Array(882).fill(0.1);
    meter.add(tone);
    expect(meter.word).toBe('sound arrives, -20 dB');
    for (let i = 0; i < 11; i++) meter.add(new Float32Array(882).fill(0.2));
    expect(meter.word).toBe('sound arrives, -20 dB');
    meter.add(new Float32Array(882).fill(0.2));
    expect(meter.word).toBe('sound arrives, -14 dB');
    meter.add(new Float32Array(882).fill(1));
    expect(meter.word).toBe('too loud: the peaks are cut off');
  });
});
