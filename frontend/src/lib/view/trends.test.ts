import { describe, expect, it } from 'vitest';
import { bandOf, csvOf, dotsOf, lineOf, pointInWords, scaleOf, stepsInWords, titleOf, type TrendShown } from './trends';

const shown = (days: number, register: 'low' | null = null): TrendShown =>
  ({
    measure: { id: 'sag', label: 'Sag over a note', unit: 'cents', least: 0, most: 10 },
    scope: register ? `${register} side` : '',
    trend: {
      scope: register,
      missing: Math.max(0, 5 - days),
      points: Array.from({ length: days }, (_, i) => ({
        day: 739_900 + i,
        low: 2,
        middle: 4 + i,
        high: 6 + i,
        takes: 3,
      })),
    },
  }) as unknown as TrendShown;

describe('a trend to scale', () => {
  it('keeps a scale in which small changes look small', () => {
    expect(scaleOf(shown(2))).toEqual([0, 10]);
    expect(scaleOf(shown(9))).toEqual([0, 14]);
  });
  it('lays days from left to right and more above less', () => {
    const dots = dotsOf(shown(6), { width: 400, height: 120, left: 40 });
    expect(dots[0]!.x).toBeLessThan(dots[5]!.x);
    expect(dots[5]!.y).toBeLessThan(dots[0]!.y);
    expect(dots[5]!.x).toBeCloseTo(394);
  });
  it('joins nothing to a line before there are five days', () => {
    const four = dotsOf(shown(4), { width: 400, height: 120, left: 40 });
    expect([lineOf(four, 1), bandOf(four, 1)]).toEqual(['', '']);
    const six = dotsOf(shown(6), { width: 400, height: 120, left: 40 });
    expect(lineOf(six, 0).split('L')).toHaveLength(6);
    expect(bandOf(six, 0).endsWith('Z')).toBe(true);
  });
  it('says a week by its Monday', () => {
    const item = shown(1);
    expect(pointInWords(item.trend.points[0]!, 'cents', 'week')).toMatch(/^week of 11 Oct: 4 cents/);
    expect(csvOf([item], 'week').startsWith('measure,scope,week,')).toBe(true);
    expect([stepsInWords(1, 'week'), stepsInWords(3, 'day')]).toEqual(['1 week', '3 days']);
  });
  it('says a day in words, and all of it as a table', () => {
    const item = shown(1, 'low');
    expect(pointInWords(item.trend.points[0]!, 'cents')).toBe('11 Oct: 4 cents, half of them 2 to 6, 3 takes');
    expect(titleOf(item)).toBe('Sag over a note, low side');
    expect(csvOf([item])).toBe('measure,scope,day,quarter,median,three_quarters,takes\nsag,low,2026-10-11,2,4,6,3\n');
  });
});
