/** Calendar days as the player's wall calendar shows them. */

export const DAY_MS = 86_400_000;

/** “2026-11-25”: the local day of a moment, never that of another time zone. */
export function isoDay(moment = new Date()): string {
  const two = (part: number) => String(part).padStart(2, '0');
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
}

/** The local day so many days before today. Counted from noon, so that a night on which clocks change moves nothing. */
export function daysAgo(days: number, moment = new Date()): string {
  const noon = new Date(moment.getFullYear(), moment.getMonth(), moment.getDate(), 12);
  return isoDay(new Date(noon.getTime() - days * DAY_MS));
}

/** 0 for Monday to 6 for Sunday. */
export function weekdayOf(moment = new Date()): number {
  return (moment.getDay() + 6) % 7;
}
