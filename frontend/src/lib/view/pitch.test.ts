import { describe, expect, it } from 'vitest';
import { midiOf, pitchName, pitchOf } from './pitch';

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
});
