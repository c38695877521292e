import { describe, expect, it } from 'vitest';
import type { TunerNote } from '../api/client';
import { emptyTrack } from './track';
import { heardNow, nearestNote, offInWords, tendencyInWords } from './tuner';

const note = (midi: number, more: Partial<TunerNote> = {}): TunerNote => ({
  midi,
  written: `n${midi}`,
  sounding: `n${midi}`,
  hz: 440 * 2 ** ((midi - 69) / 12),
  fingering: '0',
  tendency: 0,
  own: null,
  ...more,
});
const notes = [58, 59, 60].map((midi) => note(midi));

describe('a tuner', () => {
  it('names the nearest note, and none far away', () => {
    expect(nearestNote(notes, 440 * 2 ** ((59.3 - 69) / 12))?.midi).toBe(59);
    expect(nearestNote(notes, 1000)).toBeNull();
  });

  it('says how far off the last moments were', () => {
    const track = emptyTrack();
    const hz = 440 * 2 ** ((58.2 - 69) / 12);
    track.f0 = [...Array<null>(20).fill(null), ...Array<number>(24).fill(hz)];
    const heard = heardNow(track, notes);
    expect(heard?.note.midi).toBe(58);
    expect(heard?.cents).toBeCloseTo(20, 5);
    track.f0.push(...Array<null>(30).fill(null));
    expect(heardNow(track, notes)).toBeNull();
  });

  it('uses the words players use', () => {
    expect(['in tune', '14 flat', '6 sharp']).toEqual([offInWords(-1.6), offInWords(-14.2), offInWords(5.8)]);
    expect(tendencyInWords(note(60, { tendency: -13.7 }))).toBe('instrument 14 flat');
    expect(tendencyInWords(note(60, { tendency: -13.7, own: 1.2 }))).toBe('instrument 14 flat, you usually in tune');
  });
});
