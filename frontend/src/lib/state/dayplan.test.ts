import { describe, expect, it } from 'vitest';
import type { DayBlock, DayShown } from '../api/client';
import { DayPlanner } from './dayplan.svelte';

const block = (exercise_type: string, minutes: number, locked = false) =>
  ({ exercise_type, minutes, locked }) as DayBlock;

function planner(...blocks: DayBlock[]): DayPlanner {
  const day = new DayPlanner();
  day.shown.value = { plan: { blocks }, names: { a: 'A' }, instead: {} } as unknown as DayShown;
  return day;
}

describe('what a player changes in a day', () => {
  it('keeps a block and lets it go again', () => {
    const day = planner(block('a', 5), block('b', 10));
    day.hold(day.blocks[0]!);
    expect(day.wish(false).kept).toEqual([{ exercise_type: 'a', minutes: 5, params: {} }]);
    day.hold(day.blocks[0]!);
    expect(day.changed).toBe(false);
  });

  it('puts another in its place and leaves the first out', () => {
    const day = planner(block('a', 5));
    day.swap(day.blocks[0]!, 'c');
    expect(day.wish(false)).toMatchObject({
      kept: [{ exercise_type: 'c', minutes: 5 }],
      without: ['a'],
      arranged: false,
    });
  });

  it('is arranged by hand from the first move on', () => {
    const day = planner(block('a', 5), block('b', 10), block('c', 3));
    day.moveTo(2, 1);
    expect(day.wish(false)).toMatchObject({
      arranged: true,
      kept: [{ exercise_type: 'a' }, { exercise_type: 'c' }, { exercise_type: 'b', minutes: 10 }],
    });
    day.moveTo(0, -1);
    expect(day.kept.map((item) => item.exercise_type)).toEqual(['a', 'c', 'b']);
    day.asComposed();
    expect(day.wish(false)).toMatchObject({ arranged: false, kept: [] });
  });

  it('keeps minutes that were set a moment before the order, while the answer is still to come', () => {
    const day = planner(block('a', 5), block('b', 10));
    day.last(day.blocks[0]!, 8);
    day.moveTo(0, 1);
    expect(day.kept.map((item) => [item.exercise_type, item.minutes])).toEqual([
      ['b', 10],
      ['a', 8],
    ]);
  });

  it('sets minutes, adds, leaves out, and takes a kept day', () => {
    const day = planner(block('a', 5));
    day.last(day.blocks[0]!, 8);
    day.last(day.blocks[0]!, 12);
    expect(day.kept).toEqual([{ exercise_type: 'a', minutes: 12, params: {} }]);
    day.drop(day.blocks[0]!);
    expect([day.kept, day.without]).toEqual([[], ['a']]);
    day.add('a');
    expect([day.kept.length, day.without]).toEqual([1, []]);
    day.take({ id: 'r', name: 'Short', blocks: [{ exercise_type: 'b', minutes: 4, params: { tempo: '60' } }] });
    expect(day.wish(true)).toMatchObject({
      arranged: true,
      quiet: true,
      kept: [{ exercise_type: 'b', params: { tempo: '60' } }],
    });
  });
});
