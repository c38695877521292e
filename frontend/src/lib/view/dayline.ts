/** A routine laid out in time: each block's share of the minutes is played for about half and rested for the rest. */
import type { BlockPlan } from '../api/client';

export type DayBlock = {
  index: number;
  title: string;
  why: string;
  load: string;
  minutes: string;
  left: number;
  width: number;
};

const PLAYED: Record<string, number> = { easy: 0.62, medium: 0.58, high: 0.5 };

export function dayOf(plan: BlockPlan[]): { minutes: number; blocks: DayBlock[] } {
  const minutes = plan.reduce((sum, block) => sum + (block.minutes ?? 0), 0);
  let at = 0;
  const blocks = plan.map((block, index) => {
    const length = block.minutes ?? 0;
    const left = minutes ? (100 * at) / minutes : 0;
    at += length;
    const width = minutes ? (100 * length * (PLAYED[block.load] ?? 0.6)) / minutes : 0;
    const shown = length >= 1 ? String(Math.round(length * 2) / 2) : '½';
    return { index, title: block.title, why: block.why, load: block.load, minutes: shown, left, width };
  });
  return { minutes, blocks };
}
