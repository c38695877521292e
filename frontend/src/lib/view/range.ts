/** The working range over weeks: values in, geometry and words out. */
import { scaleLinear } from 'd3-scale';
import type { RangeSummary } from '../api/client';
import { tag } from '../../locales/locale.js';

type History = RangeSummary['history'];
type Space = { width: number; height: number; left: number };
export type RangeBar = {
  day: string;
  low: number;
  high: number;
  x: number;
  width: number;
  top: number;
  height: number;
  /** What is in range along lines, inside it; null where nothing is. */
  line: { low: number; high: number; top: number; height: number } | null;
};

/** Bars from the lowest to the highest note that was in range; days without any leave their place empty. */
export function rangeBars(history: History, middle: number, space: Space) {
  const inRange = history.filter((item) => item.low !== null && item.high !== null);
  const low = Math.min(middle, ...inRange.map((item) => item.low ?? middle)) - 1;
  const high = Math.max(middle, ...inRange.map((item) => item.high ?? middle)) + 1;
  const perNote = space.height / (high - low + 1);
  const yOf = scaleLinear([high + 0.5, low - 0.5], [0, space.height]);
  const x = scaleLinear([0, Math.max(1, history.length)], [space.left, space.width]);
  const step = x(1) - x(0);
  const bars: RangeBar[] = [];
  for (const [i, item] of history.entries()) {
    if (item.low === null || item.high === null) continue;
    bars.push({
      day: item.day,
      low: item.low,
      high: item.high,
      x: x(i + 0.15),
      width: Math.max(2, Math.min(28, step * 0.7)),
      top: yOf(item.high) - perNote / 2,
      height: (item.high - item.low + 1) * perNote,
      line:
        item.joined_low === null || item.joined_high === null
          ? null
          : {
              low: item.joined_low,
              high: item.joined_high,
              top: yOf(item.joined_high) - perNote / 2,
              height: (item.joined_high - item.joined_low + 1) * perNote,
            },
    });
  }
  const last = inRange.at(-1);
  // Names that would lie on one another are left out.
  const edges = [last?.high, last?.low]
    .filter((midi): midi is number => typeof midi === 'number' && Math.abs(yOf(midi) - yOf(middle)) > 14)
    .map((midi) => ({ midi, y: yOf(midi) }));
  return { bars, edges, middle: yOf(middle), from: history[0]?.day ?? '', to: history.at(-1)?.day ?? '' };
}

/** “On their own E3 to C5; in slurs and scales F3 to G4.” */
export function bothWays(item: History[number] | undefined, nameOf: (midi: number | null) => string): string {
  if (!item) return '';
  const span = (low: number | null, high: number | null) =>
    low === null || high === null ? 'nothing yet' : `${nameOf(low)} to ${nameOf(high)}`;
  return `On their own ${span(item.alone_low, item.alone_high)}; in slurs and scales ${span(item.joined_low, item.joined_high)}.`;
}

/** “2 March”. */
export function dayAndMonth(iso: string): string {
  return new Date(`${iso}T12:00:00`).toLocaleDateString(tag, { day: 'numeric', month: 'long' });
}

/** “C3 to B♭4 now; D3 to A4 on 2 March.” */
export function rangeInWords(history: History, nameOf: (midi: number | null) => string): string {
  const inRange = history.filter((item) => item.low !== null && item.high !== null);
  const [then, now] = [inRange[0], inRange.at(-1)];
  if (!then || !now || then.low === null || then.high === null || now.low === null || now.high === null) return '';
  const span = (item: { low: number | null; high: number | null }) =>
    item.low === item.high ? nameOf(item.low) : `${nameOf(item.low)} to ${nameOf(item.high)}`;
  if (then.low === now.low && then.high === now.high) return `${span(now)} since ${dayAndMonth(then.day)}.`;
  return `${span(now)} now; ${span(then)} on ${dayAndMonth(then.day)}.`;
}
