import type { ExerciseView, Take } from '../api/client';

/** Whether nothing was asked: the take is a part of playing without an exercise. */
export function isFree(exercise: ExerciseView | null): boolean {
  return exercise?.exercise.exercise_type === 'free_practice';
}

/** Where the first beat lies in a take's sound. A dropped file has no click: its first note is laid on the first written one. */
export function firstBeatOf(take: Take, exercise: ExerciseView | null): number {
  if (take.first_beat_s !== null) return take.first_beat_s;
  if (exercise && isFree(exercise)) return -exercise.count_in_s; // its notes lie where they were heard
  const first = take.measures.notes.find((note) => note.target && note.onset_s !== null);
  const written = exercise?.notes.find((note) => note.id === first?.target);
  return first?.onset_s && written ? first.onset_s - written.start_s : 0;
}
