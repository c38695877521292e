import { describe, expect, it } from 'vitest';
import { midiOf, naturalsBetween, pitchName, pitchOf, pitchOfMidi } from './pitch';

describe('pitches', () => {
  it('are read, written and counted', () => {
    for (const [name, midi] of [
      ['C4', 60],
      ['Bb3', 58],
      ['F##5', 79],
      ['Ebb2', 38],
      ['A-1', 9],
    ] as const) {
      const pitch = pitchOf(name);
      expect(midiOf(pitch)).toBe(midi);
      expect(pitchName(pitch)).toBe(name);
    }
    for (const wrong of ['', 'H4', 'C', 'Cb#4x']) expect(pitchOf(wrong)).toBeNull();
    expect(pitchName(null)).toBe('');
    expect(midiOf(null)).toBeNaN();
  });

  it('are made from the keyboard, and its white keys are counted off', () => {
    expect([60, 58, 21].map((midi) => pitchName(pitchOfMidi(midi)))).toEqual(['C4', 'Bb3', 'A0']);
    expect(naturalsBetween(58, 65).map(pitchName)).toEqual(['B3', 'C4', 'D4', 'E4', 'F4']);
  });
});
