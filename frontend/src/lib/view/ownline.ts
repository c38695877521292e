/** A line of notes as the player writes them: see core/exercises/own_line.py. */

/** One more note; its length only where it is another than that of the note before. */
export function withNote(line: string, note: string, beats: string, slurred: boolean): string {
  const before = line.trim();
  const last = [...before.matchAll(/:(\d+(?:\.\d+)?)/g)].at(-1)?.[1] ?? '1';
  const written = last === beats ? note : `${note}:${beats}`;
  return `${before}${slurred && before && !/[,-]$/.test(before) ? ' -' : ''} ${written}`.trim();
}

/** Without the last note, rest, slur or breath. */
export function withoutLast(line: string): string {
  const words = line.trim().match(/[,-]|[^\s,-]+/g) ?? [];
  words.pop();
  while (words.at(-1) === '-') words.pop();
  return words.join(' ').replace(/ ,/g, ',');
}
