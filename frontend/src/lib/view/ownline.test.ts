import { describe, expect, it } from 'vitest';
import { withNote } from './ownline';

describe('a line of notes', () => {
  it('grows by a note, and says a length only where it changes', () => {
    expect(withNote('', 'C4', '1', true)).toBe('C4');
    expect(withNote('C4', 'D4', '1', false)).toBe('C4 D4');
    expect(withNote('C4', 'D4', '2', true)).toBe('C4 - D4:2');
    expect(withNote('C4 - D4:2,', 'E4', '2', true)).toBe('C4 - D4:2, E4');
  });
  it('says a loudness only where it changes', () => {
    expect(withNote('C4', 'D4', '1', false, 'p')).toBe('C4 (p) D4');
    expect(withNote('C4 (p) D4', 'E4', '1', false, 'p')).toBe('C4 (p) D4 E4');
    expect(withNote('C4 (p) D4', 'E4', '1', true, 'f')).toBe('C4 (p) D4 - (f) E4');
  });
});
