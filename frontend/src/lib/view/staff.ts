/** Places on a staff: diatonic steps above C0, as the core counts them. */
export type Sign = 'b' | '' | '#';
export type StaffLines = { top: number; bottom: number }; // of the five lines, in pixels

const STEPS = 'CDEFGAB';
const MOST_LEDGER_LINES = 5;

/** The place of a note by its name; null for what is none. */
export function placeOf(name: string): number | null {
  const parts = /^([A-G])(?:##?|bb?)?(-?\d+)$/.exec(name);
  return parts ? 7 * Number(parts[2]) + STEPS.indexOf(parts[1] ?? 'C') : null;
}

/** The note at a place, with a sign. */
export function nameAt(place: number, sign: Sign): string {
  return `${STEPS[((place % 7) + 7) % 7] ?? 'C'}${sign}${Math.floor(place / 7)}`;
}

/** Half the distance between two lines: one step. */
export function stepOf(lines: StaffLines): number {
  return (lines.bottom - lines.top) / 8;
}

/** The place at a height, where one place is known to lie at another; within a few ledger lines of the staff. */
export function placeAt(y: number, lines: StaffLines, known: { place: number; y: number }): number {
  const step = stepOf(lines);
  const far = 2 * MOST_LEDGER_LINES * step;
  const within = Math.min(lines.bottom + far, Math.max(lines.top - far, y));
  return known.place + Math.round((known.y - within) / step);
}

/** Heights of the ledger lines between the staff and a note. */
export function ledgerLines(y: number, lines: StaffLines): number[] {
  const gap = 2 * stepOf(lines);
  const slack = gap / 4;
  const out: number[] = [];
  for (let at = lines.top - gap; at >= y - slack; at -= gap) out.push(at);
  for (let at = lines.bottom + gap; at <= y + slack; at += gap) out.push(at);
  return out;
}
