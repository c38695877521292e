import { expect, test } from 'vitest';
import { BLOCK, Gatherer, QUANTUM, type Block } from './gather';

const ramp = (frame: number) => Float32Array.from({ length: QUANTUM }, (_, i) => frame + i);

function gathered(frames: number[]): Block[] {
  const gatherer = new Gatherer();
  return frames.flatMap((frame) => gatherer.add(frame, ramp(frame)));
}

const quanta = (from: number, count: number) => Array.from({ length: count }, (_, i) => from + i * QUANTUM);

test('blocks follow one another, each with the frame of its first sample', () => {
  const blocks = gathered(quanta(640, 25));
  expect(blocks.map((block) => block.frame)).toEqual([640, 640 + BLOCK]);
  expect(blocks[1]?.samples[5]).toBe(640 + BLOCK + 5);
});

test('silence stands for sound that the machine left out, and what follows keeps its time', () => {
  const blocks = gathered([...quanta(0, 7), ...quanta(300 * QUANTUM, 20)]);
  expect(blocks.map((block) => block.frame)).toEqual(Array.from({ length: 32 }, (_, i) => i * BLOCK));
  expect(blocks[0]?.samples[6 * QUANTUM + 1]).toBe(6 * QUANTUM + 1);
  expect(blocks[0]?.samples[7 * QUANTUM + 1]).toBe(0);
  expect(blocks[29]?.samples.every((value) => value === 0)).toBe(true);
  expect(blocks[30]?.samples[3]).toBe(300 * QUANTUM + 3);
});

test('after a long hole it begins anew', () => {
  const late = 20 * 48_000;
  expect(gathered([...quanta(0, 5), ...quanta(late, 10)]).map((block) => block.frame)).toEqual([late]);
});

test('without an input there is silence', () => {
  const gatherer = new Gatherer();
  const blocks = quanta(0, 10).flatMap((frame) => gatherer.add(frame, undefined));
  expect(blocks[0]?.samples.every((value) => value === 0)).toBe(true);
});
