import { describe, expect, it } from 'vitest';
import { entriesOn } from './elsewhere';

const once = { day: '2026-11-24', minutes: 90, effort: 'medium', weekly: false } as const;
const weekly = { day: '2026-11-26', minutes: 120, effort: 'light', weekly: true } as const;

describe('playing elsewhere', () => {
  it('stands on its date, and weekly on those that follow', () => {
    expect(entriesOn([once, weekly], '2026-11-24')).toEqual([once]);
    expect(entriesOn([once, weekly], '2026-11-26')).toEqual([weekly]);
    expect(entriesOn([once, weekly], '2026-12-03')).toEqual([weekly]);
    expect(entriesOn([once, weekly], '2026-12-01')).toEqual([]);
    expect(entriesOn([once, weekly], '2026-11-19')).toEqual([]);
  });
});
