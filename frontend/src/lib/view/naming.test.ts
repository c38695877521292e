import { afterEach, describe, expect, it } from 'vitest';
import { naming, noteName } from './naming.svelte';

describe('names of notes', () => {
  afterEach(() => naming.set('letters'));

  it('are letters with signs', () => {
    expect(['Bb3', 'B3', 'F#4', 'no note'].map(noteName)).toEqual(['B♭3', 'B3', 'F♯4', 'no note']);
  });
  it('are H for B and B for B flat where that is spoken', () => {
    naming.set('h-and-b');
    const names = ['B3', 'Bb3', 'Eb2', 'Ab4', 'Db1', 'F#4', 'Gb2', 'Bbb3', 'C##5'].map(noteName);
    expect(names).toEqual(['H3', 'B3', 'Es2', 'As4', 'Des1', 'Fis4', 'Ges2', 'Heses3', 'Cisis5']);
  });
  it('are syllables where those are sung', () => {
    naming.set('syllables');
    expect(['C4', 'Bb3', 'F#4'].map(noteName)).toEqual(['Do4', 'Si♭3', 'Fa♯4']);
  });
});
