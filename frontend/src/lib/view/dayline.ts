/** A day laid out in time, and said in one sentence. */
import type { DayBlock } from '../api/client';
import { PLACE_WORDS, small } from './words';

/** “30 minutes: breathing, mouthpiece buzzing, long tones and scales.” */
export function planInWords(blocks: readonly DayBlock[]): string {
  const minutes = Math.round(blocks.reduce((sum, block) => sum + block.minutes, 0));
  const places = [...new Set(blocks.map((block) => small(PLACE_WORDS[block.place])))];
  if (places.length > 4) return `${minutes} minutes: ${places.slice(0, 3).join(', ')} and more.`;
  const last = places.pop();
  return places.length ? `${minutes} minutes: ${places.join(', ')} and ${last}.` : `${minutes} minutes: ${last}.`;
}

/** 2.5 as “2½ min”. */
export function minutesInWords(minutes: number): string {
  const whole = Math.floor(minutes);
  const half = minutes - whole >= 0.5;
  return `${whole || !half ? whole : ''}${half ? '½' : ''} min`;
}
