import { describe, expect, it } from 'vitest';
import { ledgerLines, nameAt, placeAt, placeOf } from './staff';

describe('a place on the staff', () => {
  const lines = { top: 100, bottom: 180 }; // a step is 10 pixels

  it('is counted from C0 and named again', () => {
    expect(placeOf('C4')).toBe(28);
    for (const name of ['C0', 'B3', 'E5']) expect(nameAt(placeOf(name) ?? 0, '')).toBe(name);
    expect(nameAt(placeOf('Bb3') ?? 0, 'b')).toBe('Bb3');
    expect(placeOf('H3')).toBeNull();
  });

  it('is found by its height', () => {
    const known = { place: placeOf('B4') ?? 0, y: 140 };
    expect(nameAt(placeAt(140, lines, known), '')).toBe('B4');
    expect(nameAt(placeAt(182, lines, known), '')).toBe('E4');
    expect(nameAt(placeAt(97, lines, known), '#')).toBe('F#5');
    expect(placeAt(-5000, lines, known)).toBe(placeAt(0, lines, known));
  });

  it('has ledger lines between it and the staff', () => {
    expect(ledgerLines(140, lines)).toEqual([]);
    expect(ledgerLines(90, lines)).toEqual([]);
    expect(ledgerLines(70, lines)).toEqual([80]);
    expect(ledgerLines(220, lines)).toEqual([200, 220]);
  });
});
