import type { Setup } from '../api/client';

/** A concert pitch as the server has it. */
export type Pitch = NonNullable<Setup['lowest']>;

const STEPS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** As the server writes it: Bb3, F#4; nothing for nothing. */
export function pitchName(pitch: Pitch | null | undefined): string {
  return pitch ? `${pitch.step}${(pitch.alter < 0 ? 'b' : '#').repeat(Math.abs(pitch.alter))}${pitch.octave}` : '';
}

/** Read from its name; null for what is none. */
export function pitchOf(name: string): Pitch | null {
  const found = /^([A-G])(b{0,2})(#{0,2})(-?\d+)$/.exec(name);
  if (!found) return null;
  const alter = (found[3]?.length ?? 0) - (found[2]?.length ?? 0);
  return { step: found[1] ?? 'C', alter, octave: Number(found[4]) };
}

/** Semitones, C4 = 60; NaN for nothing. */
export function midiOf(pitch: Pitch | null): number {
  return pitch ? 12 * (pitch.octave + 1) + (STEPS[pitch.step] ?? 0) + pitch.alter : NaN;
}

const FLATS = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];

/** The pitch of a keyboard number, black keys as flats. */
export function pitchOfMidi(midi: number): Pitch {
  const name = `${FLATS[midi % 12] ?? 'C'}${Math.floor(midi / 12) - 1}`;
  return pitchOf(name) ?? { step: 'C', alter: 0, octave: 4 };
}

/** The white keys from one keyboard number to another. */
export function naturalsBetween(low: number, high: number): Pitch[] {
  return Array.from({ length: high - low + 1 }, (_, i) => pitchOfMidi(low + i)).filter((pitch) => pitch.alter === 0);
}
