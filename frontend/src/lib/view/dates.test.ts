import { describe, expect, it } from 'vitest';
import { csv } from './csv';
import { daysAgo, isoDay, weekdayOf } from './dates';

describe('the local day', () => {
  it('is the one on the wall, early and late', () => {
    expect(isoDay(new Date(2026, 10, 29, 0, 1))).toBe('2026-11-29');
    expect(isoDay(new Date(2026, 10, 29, 23, 59))).toBe('2026-11-29');
    expect(weekdayOf(new Date(2026, 10, 29, 8))).toBe(6);
  });

  it('counts back over a night on which the clocks change', () => {
    for (const hour of [0, 1, 12, 23]) {
      expect(daysAgo(0, new Date(2026, 2, 30, hour))).toBe('2026-03-30');
      expect(daysAgo(1, new Date(2026, 2, 30, hour))).toBe('2026-03-29');
      expect(daysAgo(2, new Date(2026, 9, 26, hour))).toBe('2026-10-24');
    }
  });
});

describe('CSV', () => {
  it('quotes commas, quotes and line ends, and disarms formulas', () => {
    expect(csv(['a', 'b'], [['one, two', 'say "no"']])).toBe('a,b\n"one, two","say ""no"""\n');
    expect(csv(['a'], [['=1+1'], [-3], [null], [true]])).toBe("a\n'=1+1\n-3\n\ntrue\n");
  });
});
