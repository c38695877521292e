import { describe, expect, it } from 'vitest';
import { gridAt, musicAt, nextMusicAt } from './barGrid';

const grid = { first: 10, beatS: 0.5, perBar: 4, countIn: 4 };

describe('the beats that go on between takes', () => {
  it('begins the next exercise whole bars after this one', () => {
    expect(musicAt(grid)).toBe(12);
    expect(nextMusicAt(grid, 4, 15)).toBe(20);
  });
  it('lets whole bars pass where it would not be ready', () => {
    expect(nextMusicAt(grid, 4, 20.1)).toBe(22);
    expect(nextMusicAt(grid, 4, 24)).toBe(24);
    expect(nextMusicAt(grid, 4, 24.5)).toBe(26);
  });
  it('counts another tempo in so that its first beat falls where it should', () => {
    const next = gridAt(20, { beatS: 1, perBar: 3, countIn: 2 });
    expect(next.first).toBe(18);
    expect(musicAt(next)).toBe(20);
  });
});
