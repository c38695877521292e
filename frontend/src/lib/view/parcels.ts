/** Lessons and hearings in words. */
import type { Parcel } from '../api/client';
import { dateInWords } from './weeks';
import { noteSigns } from './words';

/** “a hearing for Wenna”, “a lesson from Piran”. */
export function headline(parcel: Parcel): string {
  const told = parcel.lesson ?? parcel.hearing;
  return parcel.way === 'sent'
    ? `a ${parcel.kind} for ${told?.to ?? 'somebody'}`
    : `a ${parcel.kind} from ${parcel.sender}`;
}

/** How far it is. */
export function standingOf(parcel: Parcel): string {
  if (parcel.lesson) {
    if (parcel.way === 'sent') return 'made here';
    const parts = partsOf(parcel).length;
    return parts ? `${parcel.taken.length} of ${parts} taken over` : 'words only';
  }
  if (parcel.answer) return parcel.way === 'sent' ? `answered by ${parcel.answer.by}` : 'your answer is written';
  return parcel.way === 'sent' ? 'no answer yet' : 'waits for your answer';
}

export type LessonPart = { key: string; kind: string; name: string; words: string; take: string | null };

/** Everything in a lesson that can be taken over, in its order. */
export function partsOf(parcel: Parcel): LessonPart[] {
  const { lesson } = parcel;
  if (!lesson) return [];
  const limits = Object.keys(lesson.limits ?? {}).length;
  return [
    ...(lesson.figures ?? []).map((one, i) => part(`figure ${i}`, 'Figure', one.name, one.words)),
    ...(lesson.recordings ?? []).map((one, i) => part(`recording ${i}`, 'To match', one.title, one.words, one.take_id)),
    ...(lesson.routines ?? []).map((one, i) => {
      const minutes = one.blocks.reduce((sum, block) => sum + block.minutes, 0);
      return part(`routine ${i}`, 'Day', `${one.name}, ${Math.round(minutes)} min`, one.words);
    }),
    ...(lesson.aims ?? []).map((one, i) =>
      part(`aim ${i}`, 'Aim', `${noteSigns(one.says)}, by ${dateInWords(one.by)}`, one.words),
    ),
    ...(limits ? [part('limits', 'Limits', limits === 1 ? 'one of your limits' : `${limits} of your limits`, '')] : []),
  ];
}

function part(key: string, kind: string, name: string, words: string, take: string | null = null): LessonPart {
  return { key, kind, name, words, take };
}
