/** Notes taken by hand: "C4=1-3; 2/n5=1-2" and back, and what may be chosen for each note. */
import type { ChartRow, ExerciseView } from '../api/client';
import { noteName } from './words';

export type Named = Record<string, string>;
export type Choice = {
  key: string;
  name: string;
  sounding: string;
  written: string;
  options: { label: string; says: string }[];
};

export function readOptions(text: string): Named {
  const pairs = text.split(';').map((item) => item.split('=').map((part) => part.trim()));
  return Object.fromEntries(pairs.filter((pair) => pair.length === 2 && pair[0] && pair[1]) as [string, string][]);
}

export function writeOptions(named: Named): string {
  return Object.entries(named)
    .filter(([, fingering]) => fingering)
    .map(([key, fingering]) => `${key}=${fingering}`)
    .join('; ');
}

/** “1-3, 6 cents flat”. */
function optionInWords(option: ChartRow['options'][number]): string {
  const cents = Math.round(option.cents);
  return cents ? `${option.label}, ${Math.abs(cents)} cents ${cents > 0 ? 'sharp' : 'flat'}` : option.label;
}

/** The notes of an exercise that have alternate fingerings: each pitch once, or every note by itself (`single`: its number). */
export function choicesOf(view: ExerciseView, chart: readonly ChartRow[], single: number | null): Choice[] {
  const rows = new Map(chart.map((row) => [row.sounding, row]));
  const written = new Map(view.exercise.notes.map((note) => [note.id, note]));
  const found = new Map<string, Choice>();
  view.notes.forEach((note, i) => {
    const [row, plain] = [rows.get(note.sounding), written.get(note.id)];
    if (!row || row.options.length < 2 || plain?.keep_fingering || (plain?.glide_beats ?? 0) > 0) return;
    const key = single === null ? note.sounding : `${single}/${note.id}`;
    const name = single === null ? noteName(note.written) : `${i + 1}. ${noteName(note.written)}`;
    const options = row.options.map((option) => ({ label: option.label, says: optionInWords(option) }));
    if (!found.has(key)) found.set(key, { key, name, sounding: note.sounding, written: note.written, options });
  });
  return [...found.values()];
}

/** What holds where nothing is said of a note by itself: what was said of its pitch, else the usual way. */
export function otherwise(choice: Choice, named: Named): string {
  const fingering = choice.key === choice.sounding ? undefined : named[choice.sounding];
  return fingering ? `as every ${noteName(choice.written)}: ${fingering}` : 'as usual';
}
