/** A day laid out in time: each block's share of the minutes is played for about half and rested for the rest. */
import type { DayBlock } from '../api/client';

export type Bar = { left: number; width: number; load: string; title: string };

const PLAYED: Record<string, number> = { easy: 0.62, medium: 0.58, high: 0.5 };

export function barsOf(blocks: readonly DayBlock[], nameOf: (family: string) => string): Bar[] {
  const minutes = blocks.reduce((sum, block) => sum + block.minutes, 0);
  let at = 0;
  return blocks.map((block) => {
    const left = minutes ? (100 * at) / minutes : 0;
    at += block.minutes;
    const width = minutes ? (100 * block.minutes * (PLAYED[block.load_class] ?? 0.6)) / minutes : 0;
    return { left, width, load: block.load_class, title: `${nameOf(block.family)}, ${minutesInWords(block.minutes)}` };
  });
}

/** 2.5 as “2½ min”. */
export function minutesInWords(minutes: number): string {
  const whole = Math.floor(minutes);
  const half = minutes - whole >= 0.5;
  return `${whole || !half ? whole : ''}${half ? '½' : ''} min`;
}
