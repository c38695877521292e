/** Weeks for the page: days in order, bars to one scale, words for dates and kinds. Ordinal days count from 1 January of year 1. */
import type { Goal, Weeks } from '../api/client';
import { DAY_MS } from './dates';
import { counted, loadMinutes } from './numbers';
import { tag } from '../../locales/locale.js';

export type Week = Weeks['weeks'][number];
export type PlannedDay = Week['days'][number];

const EPOCH = 719_163; // ordinal of 1 January 1970

export function dateOf(ordinal: number): Date {
  return new Date(Date.UTC(1970, 0, 1 + ordinal - EPOCH));
}

/** “2026-11-25”. */
export function isoOf(ordinal: number): string {
  return dateOf(ordinal).toISOString().slice(0, 10);
}

const UTC = { timeZone: 'UTC' } as const;

/** The first letters of the days, Monday first. */
export function weekdayLetters(): string[] {
  return [1, 2, 3, 4, 5, 6, 7].map((ordinal) => dateOf(ordinal).toLocaleDateString(tag, { weekday: 'narrow', ...UTC }));
}

export function weekday(ordinal: number): string {
  return dateOf(ordinal).toLocaleDateString(tag, { weekday: 'long', ...UTC });
}

export function shortDate(ordinal: number): string {
  return dateOf(ordinal).toLocaleDateString(tag, { day: 'numeric', month: 'short', ...UTC });
}

export function dateInWords(iso: string): string {
  return new Date(`${iso}T00:00:00Z`).toLocaleDateString(tag, {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    ...UTC,
  });
}

/** The greatest load of any day, planned or played: the top of the scale. */
export function topOf(weeks: readonly Week[]): number {
  return Math.max(1, ...weeks.flatMap((week) => week.days.map((day) => Math.max(day.target, day.played ?? 0))));
}

export function playedOf(week: Week): number {
  return week.days.reduce((sum, day) => sum + (day.played ?? 0), 0);
}

/** “This week: 3 of 5 days played, load 96 of 213 min.” */
export function weekInWords({ weeks, today }: Pick<Weeks, 'weeks' | 'today'>): string {
  const week = weeks.find((item) => item.start <= today && today < item.start + 7);
  if (!week) return '';
  const played = week.days.filter((day) => day.played).length;
  const ahead = week.days.filter((day) => day.day >= today && !day.played && day.target > 0).length;
  const load = `load ${loadMinutes(playedOf(week))} of ${loadMinutes(week.bound)} min`;
  return `This week: ${played} of ${counted(played + ahead, ['# day', '# days'])} played, ${load}.`;
}

/** “Likely in the week of 3 March, between 12 February and 9 April.” */
export function forecastInWords(goal: Goal): string {
  if (goal.state === 'reached') return `Reached on ${dateInWords(goal.ended ?? goal.date)}.`;
  if (goal.state === 'given up') return 'Stopped.';
  if (goal.state === 'paused') return 'Paused.';
  if (goal.missing_days)
    return `A likely date comes after ${counted(goal.missing_days, ['# more day', '# more days'])} of practice.`;
  if (!goal.median) return 'At this rate it takes more than five years.';
  const low = goal.low ? dateInWords(goal.low) : '';
  const high = goal.high ? dateInWords(goal.high) : 'much later';
  return `Likely by ${dateInWords(goal.median)} (between ${low} and ${high}).`;
}

/** What is to be said about the date; nothing where it will be met. */
export function dateAtRisk(goal: Goal): string | null {
  if (goal.state !== 'on' || !goal.otherwise) return null;
  return `Not by ${dateInWords(goal.date)} at this rate: ${goal.otherwise}.`;
}

const MOST_WEEKS = 52;

/** Weeks from this one to the one after a date: what its picture shows. */
export function weeksUntil(today: number, iso: string): number {
  const on = Math.floor(Date.parse(`${iso}T00:00:00Z`) / DAY_MS) + EPOCH;
  const monday = (day: number) => day - ((day - 1) % 7);
  return Math.min(MOST_WEEKS, Math.max(1, (monday(on) - monday(today)) / 7 + 2));
}

/** “, lighter before the performance”; nothing of a week as usual. */
export function phaseInWords(week: Week): string {
  const words = {
    usual: '',
    'before a performance': ', lighter before the performance',
    performance: ', performance',
    'after a performance': ', lighter after the performance',
  };
  return words[week.phase];
}

/** The next date that weeks are planned towards, and what it is: a performance, else the latest goal. */
export function nextDate(
  performances: readonly string[],
  goals: readonly Goal[],
  today: number,
): { until: string; what: string } | null {
  const ahead = [...performances].filter((iso) => iso >= isoOf(today)).sort();
  if (ahead[0]) return { until: ahead[0], what: 'performance' };
  const due = goals.filter((goal) => goal.state === 'on' && goal.date > isoOf(today)).map((goal) => goal.date);
  const last = due.sort().at(-1);
  return last ? { until: last, what: 'last goal' } : null;
}

/** No practice from one date to another, both included: a holiday. At most three months; none where the dates are turned round. */
export function holiday(from: string, until: string): Record<string, number> {
  const [first, last] = [from, until].map((iso) => Date.parse(`${iso}T12:00:00Z`)) as [number, number];
  const count = Math.min(92, Math.round((last - first) / DAY_MS) + 1);
  if (!(count > 0)) return {};
  return Object.fromEntries(
    Array.from({ length: count }, (_, i) => [new Date(first + i * DAY_MS).toISOString().slice(0, 10), 0]),
  );
}

/** “November 2026”; months count from 0. */
export function monthName(year: number, month: number): string {
  return new Date(Date.UTC(year, month, 1)).toLocaleDateString(tag, { month: 'long', year: 'numeric', ...UTC });
}
