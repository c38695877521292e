/** What a tuner says of the last moments: the nearest note of the instrument, and how far off it is. */
import type { TunerNote } from '../api/client';
import { cents, HOP_S, type Track } from './track';

const RECENT_S = 0.12;
const LEAST = 8; // frames of tone
const REACH = 70; // cents; further from every note it is none

export type Heard = { note: TunerNote; hz: number; cents: number };

/** The note nearest to a frequency; null far from all of them. */
export function nearestNote(notes: readonly TunerNote[], hz: number): TunerNote | null {
  let best: TunerNote | null = null;
  let off = REACH;
  for (const note of notes) {
    const away = Math.abs(cents(hz, note.hz));
    if (away < off) [best, off] = [note, away];
  }
  return best;
}

/** The middle of what sounded just now; null in silence. */
export function heardNow(track: Track, notes: readonly TunerNote[]): Heard | null {
  const from = Math.max(0, track.f0.length - Math.round(RECENT_S / HOP_S));
  const values = track.f0.slice(from).filter((f): f is number => typeof f === 'number' && f > 0);
  if (values.length < LEAST) return null;
  values.sort((a, b) => a - b);
  const hz = values[values.length >> 1] ?? 0;
  const note = nearestNote(notes, hz);
  return note ? { note, hz, cents: cents(hz, note.hz) } : null;
}

/** “14 flat”; within a cent or two nobody hears a difference. */
export function offInWords(off: number): string {
  const whole = Math.round(Math.abs(off));
  if (whole <= 2) return 'in tune';
  return `${whole} ${off < 0 ? 'flat' : 'sharp'}`;
}

/** Where the instrument and this player tend to have a note. */
export function tendencyInWords(note: TunerNote): string {
  const lies = (off: number) => (Math.abs(off) < 2 ? 'in tune' : offInWords(off));
  const instrument = `instrument ${lies(note.tendency)}`;
  return note.own === null ? instrument : `${instrument}, you usually ${lies(note.own)}`;
}
