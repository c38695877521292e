/** A day laid out in time, and said in one sentence. */
import type { DayBlock } from '../api/client';
import { PLACE_WORDS } from './words';

/** “30 minutes: breathing, mouthpiece buzzing, long tones and scales.” */
export function planInWords(blocks: readonly DayBlock[]): string {
  const minutes = Math.round(blocks.reduce((sum, block) => sum + block.minutes, 0));
  const places = [...new Set(blocks.map((block) => PLACE_WORDS[block.place].toLowerCase()))];
  const named = places.length > 4 ? [...places.slice(0, 3), 'more'] : places;
  const last = named.pop();
  return `${minutes} minutes: ${named.length ? `${named.join(', ')} and ${last}` : last}.`;
}

/** 2.5 as “2½ min”. */
export function minutesInWords(minutes: number): string {
  const whole = Math.floor(minutes);
  const half = minutes - whole >= 0.5;
  return `${whole || !half ? whole : ''}${half ? '½' : ''} min`;
}
