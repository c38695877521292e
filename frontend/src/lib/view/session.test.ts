import { describe, expect, it } from 'vitest';
import { barOf, endedInWords } from './session';

const told = (summary: object, minutes = 20) =>
  ({
    summary: { playing_s: 300, take_ids: [], lasted_s: 60 * minutes, ...summary },
  }) as unknown as Parameters<typeof barOf>[0];

describe('a session in a line', () => {
  it('shows tone against the time it took, and the heavy share of the load', () => {
    const bar = barOf(told({ load: 80, high_load: 20 }));
    expect(bar.played).toBeCloseTo(25);
    expect(bar.high).toBeCloseTo(25);
    expect(bar.words).toBe('5 min 00 s of playing in 20 min 00 s, load 1.3 min, 25% of it heavy');
  });
  it('never shows more tone than time, and says no load where none is known', () => {
    const bar = barOf(told({}, 1));
    expect(bar.played).toBe(100);
    expect(bar.words).not.toContain('load');
  });
  it('says where it was ended early, and nothing where it was stopped by a report', () => {
    expect(endedInWords(told({ blocks: 5, reached: 3 }).summary)).toBe('ended after 3 of 5 exercises');
    expect(endedInWords(told({ blocks: 5, reached: 5 }).summary)).toBe('');
    expect(endedInWords(told({ blocks: 5, reached: 3, stopped: 'pain' }).summary)).toBe('');
  });
});
