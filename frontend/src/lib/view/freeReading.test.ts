import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { freeInSentences, placeHref, reachInWords } from './freeReading';

const reading: Schemas['FreeReading'] = {
  parts: 2,
  notes: 17,
  playing_s: 95,
  longest_s: 8.21,
  low: 58,
  high: 70,
  off_cents: 6.4,
  tuning: [],
  registers: [
    { register: 'low', count: 4, off_cents: 3.2 },
    { register: 'high', count: 2, off_cents: 11.8 },
  ],
  attacks: 7,
  attack_cents: 14.2,
  attack_ms: 60,
  breaks: 1,
  wobble_cents: 4.4,
  drift_cents: -7.1,
  slurs: { count: 10, gaps: [], touched: [{ take_id: 'a', at_s: 3.25, ms: 80 }] },
  soft_db: -30,
  loud_db: -14,
};

describe('what was read from free playing', () => {
  it('is said in sentences', () => {
    expect(reachInWords(reading, (midi) => `n${midi}`)).toBe(
      '1 min 35 s of playing in 2 parts, from n58 to n70. The longest note lasted 8.2 s.',
    );
    expect(freeInSentences(reading)).toEqual([
      'Tuning: held notes were usually 6 cents out. By register: low 3, high 12.',
      'Attacks: 7, usually 14 cents off, and settled after 0.06 s. 1 note cracked or started on another partial.',
      'Steadiness: long notes wobbled by 4 cents, and drifted 7 flat.',
      'Slurs: 10, with 1 partial touched on the way.',
      'Volume: 16 dB between soft and loud.',
    ]);
  });

  it('leaves out what was not measured', () => {
    const nothing = { ...reading, off_cents: null, attack_cents: null, wobble_cents: null, loud_db: null };
    expect(freeInSentences({ ...nothing, slurs: { count: 0, gaps: [], touched: [] } })).toEqual([]);
    expect(reachInWords({ ...reading, notes: 0 }, String)).toBe('Nothing was played.');
  });

  it('leads to a moment before the place', () => {
    expect(placeHref({ take_id: 'a', at_s: 3.25, ms: 80 })).toBe('/take/a?at=2.3');
  });
});
