/** Lessons and recordings in words. */
import type { Exchange } from '../api/client';
import { dateInWords } from './weeks';
import { noteSigns } from './words';
import { daysAgo } from './dates';
import { counted } from './numbers';

/** “Recordings for Wenna”, “Lesson from Piran”. */
export function headline(exchange: Exchange): string {
  const told = exchange.lesson ?? exchange.review_request;
  const what = exchange.lesson ? 'Lesson' : 'Recordings';
  return exchange.way === 'sent' ? `${what} for ${told?.to ?? 'somebody'}` : `${what} from ${exchange.sender}`;
}

/** How far it is. */
export function standingOf(exchange: Exchange): string {
  if (exchange.lesson) {
    if (exchange.way === 'sent') return 'sent';
    const parts = partsOf(exchange).length;
    return parts ? `${exchange.taken.length} of ${parts} added` : 'message only';
  }
  if (exchange.answer) return exchange.way === 'sent' ? `answered by ${exchange.answer.by}` : 'you answered';
  return exchange.way === 'sent' ? 'no answer yet' : 'waiting for your answer';
}

export type LessonPart = { key: string; kind: string; name: string; words: string; take: string | null };

/** Everything in a lesson that can be taken over, in its order. */
export function partsOf(exchange: Exchange): LessonPart[] {
  const { lesson } = exchange;
  if (!lesson) return [];
  const limits = Object.keys(lesson.limits ?? {}).length;
  return [
    ...(lesson.exercises ?? []).map((one, i) => part(`exercise ${i}`, 'Exercise', one.name, one.words)),
    ...(lesson.recordings ?? []).map((one, i) => part(`recording ${i}`, 'To match', one.title, one.words, one.take_id)),
    ...(lesson.routines ?? []).map((one, i) => {
      const minutes = one.blocks.reduce((sum, block) => sum + block.minutes, 0);
      return part(`routine ${i}`, 'Routine', `${one.name}, ${Math.round(minutes)} min`, one.words);
    }),
    ...(lesson.goals ?? []).map((one, i) =>
      part(`goal ${i}`, 'Goal', `${noteSigns(one.says)}, by ${dateInWords(one.by)}`, one.words),
    ),
    ...(limits ? [part('limits', 'Limits', counted(limits, ['# limit', '# limits']), '')] : []),
  ];
}

function part(key: string, kind: string, name: string, words: string, take: string | null = null): LessonPart {
  return { key, kind, name, words, take };
}

/** Whether a lesson of the last four weeks has a part that was not added yet; one of words only stays for a week. */
export function isOpen(exchange: Exchange): boolean {
  const parts = partsOf(exchange);
  const missing = parts.some((part) => !exchange.taken.includes(part.key));
  return (missing || !parts.length) && exchange.made_at.slice(0, 10) > daysAgo(parts.length ? 28 : 7);
}
