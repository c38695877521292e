import type { FigureView, Take } from '../api/client';

/** Whether nothing was asked: the take is a part of playing without an exercise. */
export function isFree(figure: FigureView | null): boolean {
  return figure?.figure.family === 'free_practice';
}

/** Where the first beat lies in a take's sound. A dropped file has no click: its first note is laid on the first written one. */
export function firstBeatOf(take: Take, figure: FigureView | null): number {
  if (take.first_beat_s !== null) return take.first_beat_s;
  if (figure && isFree(figure)) return -figure.count_in_s; // its notes lie where they were heard
  const first = take.measures.notes.find((note) => note.target && note.onset_s !== null);
  const written = figure?.notes.find((note) => note.id === first?.target);
  return first?.onset_s && written ? first.onset_s - written.start_s : 0;
}
