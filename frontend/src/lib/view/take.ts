import type { FigureView, Take } from '../api/client';

/** Where the first beat lies in a take's sound. A dropped file has no click: its first note is laid on the first written one. */
export function firstBeatOf(take: Take, figure: FigureView | null): number {
  if (take.first_beat_s !== null) return take.first_beat_s;
  const first = take.measures.notes.find((note) => note.target && note.onset_s !== null);
  const written = figure?.notes.find((note) => note.id === first?.target);
  return first?.onset_s && written ? first.onset_s - written.start_s : 0;
}
