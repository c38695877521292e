/** A trend's picture: days from left to right, the middle half as a band, the middle as a line; values in, geometry and words out. */
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { csv } from './csv';
import type { Schemas } from '../api/client';
import { isoOf, shortDate } from './weeks';
import { counted, decimals } from './numbers';

export type TrendShown = Schemas['TrendShown'];
type Point = TrendShown['trend']['points'][number];
type Space = { width: number; height: number; left: number };
export type Dot = { x: number; y: number; low: number; high: number; point: Point };

const PAD = 6;
const LINE = line<Dot>(
  (dot) => dot.x,
  (dot) => dot.y,
).digits(1);
const BAND = area<Dot>(
  (dot) => dot.x,
  (dot) => dot.low,
  (dot) => dot.high,
).digits(1);

/** The scale: what was measured, and never less than what makes a small change look small. */
export function scaleOf(shown: TrendShown): [number, number] {
  const { points } = shown.trend;
  const { least, most } = shown.measure;
  return [Math.min(least, ...points.map((point) => point.low)), Math.max(most, ...points.map((point) => point.high))];
}

export function dotsOf(shown: TrendShown, space: Space): Dot[] {
  const { points } = shown.trend;
  const from = points[0]?.day ?? 0;
  const to = Math.max(from + 1, points.at(-1)?.day ?? 0);
  const x = scaleLinear([from, to], [space.left + PAD, space.width - PAD]);
  const y = scaleLinear(scaleOf(shown), [space.height - PAD, PAD]);
  return points.map((point) => ({
    x: x(point.day),
    y: y(point.middle),
    low: y(point.low),
    high: y(point.high),
    point,
  }));
}

/** Nothing is joined to a line before there are days enough. */
export function lineOf(dots: readonly Dot[], missing: number): string {
  return missing > 0 ? '' : (LINE(dots) ?? '');
}

export function bandOf(dots: readonly Dot[], missing: number): string {
  return missing > 0 ? '' : (BAND(dots) ?? '');
}

export function numberOf(value: number): string {
  return decimals(value, Math.abs(value) >= 10 ? 0 : 1, 0);
}

/** What a point of the pictures is: a day, or in long spans a week, named by its Monday. */
export type Step = 'day' | 'week';

function nameOfPoint(day: number, step: Step): string {
  return step === 'week' ? `week of ${shortDate(day)}` : shortDate(day);
}

/** “3 days”, “1 week”. */
export function stepsInWords(many: number, step: Step): string {
  return step === 'week' ? counted(many, ['# week', '# weeks']) : counted(many, ['# day', '# days']);
}

/** What is missing before something can be said: “3 more days”. */
export function stepsToGo(many: number, step: Step): string {
  return step === 'week'
    ? counted(many, ['# more week', '# more weeks'])
    : counted(many, ['# more day', '# more days']);
}

/** “12 Nov: 4.2 cents, the middle half from 3 to 6, 14 takes”. */
export function pointInWords(point: Point, unit: string, step: Step = 'day'): string {
  const span = `${numberOf(point.low)} to ${numberOf(point.high)}`;
  const takes = counted(point.takes, ['# take', '# takes']);
  return `${nameOfPoint(point.day, step)}: ${numberOf(point.middle)} ${unit}, half of them ${span}, ${takes}`;
}

export function titleOf(shown: TrendShown): string {
  return shown.scope ? `${shown.measure.label}, ${shown.scope}` : shown.measure.label;
}

export function csvOf(trends: readonly TrendShown[], step: Step = 'day'): string {
  const rows = trends.flatMap((shown) =>
    shown.trend.points.map((point) => [
      shown.measure.id,
      shown.trend.scope,
      isoOf(point.day),
      point.low,
      point.middle,
      point.high,
      point.takes,
    ]),
  );
  return csv(['measure', 'scope', step, 'quarter', 'median', 'three_quarters', 'takes'], rows);
}
