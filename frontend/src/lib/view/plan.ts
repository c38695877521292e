/** The blocks of a session as they are counted: spare ones only once they were brought in. */
import type { SessionState } from '../api/client';

export function blocksInSight(state: SessionState): number {
  return state.plan.filter((block, index) => !block.spare || index <= state.block).length;
}

/** Whether the present block is the last one that is planned. */
export function nothingFollows(state: SessionState): boolean {
  return state.plan.slice(state.block + 1).every((block) => block.spare);
}
