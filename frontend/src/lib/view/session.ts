/** A session in numbers: how long it was, how much of that was tone, how heavy. */
import type { LogSession } from '../api/client';
import { loadMinutes, seconds } from './numbers';

type Told = Pick<LogSession, 'summary'>;
export type SessionBar = { played: number; high: number; minutes: number; words: string };

const LONGEST_MIN = 120;

/** Shares of the picture's width: tone, the heavy part of it; the rest of the line is rest. */
export function barOf(session: Told): SessionBar {
  const { playing_s: tone, load = 0, high_load: high = 0, lasted_s: lasted = 0 } = session.summary;
  const whole = Math.max(tone, lasted);
  const share = load > 0 ? high / load : 0;
  const said = [`${seconds(tone)} of playing in ${seconds(whole)}`];
  if (load > 0) said.push(`load ${loadMinutes(load)} min`);
  if (share > 0) said.push(`${Math.round(100 * share)}% of it heavy`);
  return {
    played: whole > 0 ? (100 * tone) / whole : 0,
    high: 100 * share,
    minutes: Math.min(LONGEST_MIN, whole / 60),
    words: said.join(', '),
  };
}

/** Why it ended, where that is worth a word. */
export function endedInWords(summary: Told['summary']): string {
  if (summary.stopped) return '';
  const { blocks = 0, reached = 0 } = summary;
  return blocks > 1 && reached < blocks ? `ended after ${reached} of ${blocks} exercises` : '';
}
