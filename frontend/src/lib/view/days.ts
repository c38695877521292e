/** Days of playing as bars: values in, geometry out. */
import { scaleLinear } from 'd3-scale';
import { csv } from './csv';
import { named } from './names';
import { decimals, loadMinutes } from './numbers';
import type { Schemas } from '../api/client';

export type Day = Schemas['DayOfPlaying'];
export type Bar = { day: Day; x: number; width: number; y: number; height: number; high: number };

const MS = 86_400_000;
const noon = (iso: string) => Date.parse(`${iso}T12:00:00Z`);

/** A bar for each day that was played, at its place in time; `high`: how much of its height was heavy work. */
export function barsOf(days: readonly Day[], view: { width: number; height: number; left: number }): Bar[] {
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last) return [];
  const nth = (day: Day) => Math.round((noon(day.day) - noon(first.day)) / MS);
  const x = scaleLinear([0, nth(last) + 1], [view.left, view.width]);
  const tall = scaleLinear([0, Math.max(1, ...days.map((day) => day.load))], [0, view.height]);
  return days.map((day) => ({
    day,
    x: x(nth(day)),
    width: Math.max(1, Math.min(x(1) - x(0) - 1, 18)),
    y: view.height - tall(day.load),
    height: tall(day.load),
    high: tall(Math.min(day.load, day.high_load)),
  }));
}

/** “3 March: load 2 min, 40% heavy, 9.5 minutes of tone, lips worn out”. */
export function dayInWords(day: Day, name: string): string {
  const heavy = day.load > 0 ? Math.round((100 * day.high_load) / day.load) : 0;
  return [
    `${name}: load ${loadMinutes(day.load)} min`,
    heavy ? `${heavy}% heavy` : '',
    `${decimals(day.playing_min, 1)} minutes of tone`,
    day.rest_share == null ? '' : `${Math.round(100 * day.rest_share)}% of the time rest`,
    day.spent ? 'lips worn out' : '',
    day.report ? `reported: ${named(day.report)}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

export function csvOfDays(days: readonly Day[]): string {
  const rows = days.map((day) => [
    day.day,
    day.load,
    day.high_load,
    day.playing_min,
    day.rest_share,
    day.spent,
    day.report,
  ]);
  return csv(['day', 'load', 'high_load', 'playing_min', 'rest_share', 'spent', 'report'], rows);
}

export function csvOfWeeks(weeks: readonly Schemas['WeekOfPlaying'][]): string {
  const columns = [
    'days',
    'load',
    'high_share',
    'playing_min',
    'rest_share',
    'takes',
    'clean',
    'minutes_to_tiring',
    'spent',
    'reports',
  ] as const;
  return csv(
    ['week', ...columns],
    weeks.map((week) => [week.start, ...columns.map((name) => week[name])]),
  );
}
