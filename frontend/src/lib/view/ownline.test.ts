import { describe, expect, it } from 'vitest';
import { withNote, withoutLast } from './ownline';

describe('a line of notes', () => {
  it('grows by a note, and says a length only where it changes', () => {
    expect(withNote('', 'C4', '1', true)).toBe('C4');
    expect(withNote('C4', 'D4', '1', false)).toBe('C4 D4');
    expect(withNote('C4', 'D4', '2', true)).toBe('C4 - D4:2');
    expect(withNote('C4 - D4:2,', 'E4', '2', true)).toBe('C4 - D4:2, E4');
  });
  it('loses its last note with the slur into it', () => {
    expect(withoutLast('C4 - D4:2')).toBe('C4');
    expect(withoutLast('C4 D4:2, E4')).toBe('C4 D4:2,');
    expect(withoutLast('C4 D4:2,')).toBe('C4 D4:2');
    expect(withoutLast('')).toBe('');
  });
});
