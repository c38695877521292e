/** Playing elsewhere, and how much somebody plays now. */
import type { Schemas } from '../api/client';

type Entry = Schemas['PlayedElsewhere'];
export const NOW_MINUTES = [20, 30, 45, 60, 90, 120, 180, 240] as const;

/** How much one plays now, in minutes a week; nothing: as much as is planned. */
export const PLAYS_NOW: readonly [number, string][] = [
  [30, 'half an hour a week'],
  [60, 'an hour a week'],
  [120, '2 hours a week'],
  [240, '4 hours a week'],
  [420, '7 hours a week'],
  [720, '12 hours a week and more'],
];

const DAY_MS = 86_400_000;

/** The entries of a date: its own, and those of every week from an earlier date on. */
export function entriesOn(entries: readonly Entry[], iso: string): Entry[] {
  const at = Date.parse(iso);
  return entries.filter((entry) => {
    const days = Math.round((at - Date.parse(entry.day)) / DAY_MS);
    return days === 0 || (!!entry.weekly && days > 0 && days % 7 === 0);
  });
}
