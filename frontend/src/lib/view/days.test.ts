import { describe, expect, it } from 'vitest';
import { barsOf, csvOfDays, dayInWords, type Day } from './days';

const day = (iso: string, load: number, high = 0): Day => ({
  day: iso,
  load,
  high_load: high,
  playing_min: 9.5,
  rest_share: null,
  spent: false,
  report: null,
});

describe('days as bars', () => {
  it('stand at their place in time, to the height of the fullest', () => {
    const bars = barsOf([day('2026-03-01', 50, 25), day('2026-03-02', 100), day('2026-03-10', 0)], {
      width: 140,
      height: 80,
      left: 40,
    });
    expect(bars.map((bar) => bar.x)).toEqual([40, 50, 130]);
    expect(bars.map((bar) => bar.height)).toEqual([40, 80, 0]);
    expect(bars.map((bar) => bar.high)).toEqual([20, 0, 0]);
    expect(bars[1]?.y).toBe(0);
    expect(bars[0]?.width).toBe(9);
    expect(barsOf([], { width: 140, height: 80, left: 40 })).toEqual([]);
  });

  it('are said in words', () => {
    expect(dayInWords(day('2026-03-01', 50, 20), '1 March')).toBe(
      '1 March: load 0.8 min, 40% heavy, 9.5 minutes of tone',
    );
    expect(dayInWords({ ...day('2026-03-01', 50), rest_share: 0.625 }, '1 March')).toContain('63% of the time rest');
    expect(csvOfDays([day('2026-03-01', 50, 20)]).split('\n')[1]).toBe('2026-03-01,50,20,9.5,,false,');
    expect(dayInWords({ ...day('2026-03-01', 50), spent: true, report: 'sore' }, '1 March')).toBe(
      '1 March: load 0.8 min, 9.5 minutes of tone, lips worn out, reported: sore',
    );
  });
});
