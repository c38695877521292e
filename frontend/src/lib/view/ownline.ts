/** A line of notes as the player writes them: see core/exercises/own_line.py. */

/** One more note; its length only where it is another than that of the note before; a loudness where one is chosen. */
export function withNote(line: string, note: string, beats: string, slurred: boolean, dynamic = ''): string {
  const before = line.trim();
  const last = [...before.matchAll(/:(\d+(?:\.\d+)?)/g)].at(-1)?.[1] ?? '1';
  const written = last === beats ? note : `${note}:${beats}`;
  const loudness = dynamic && dynamicOf(before) !== dynamic ? `(${dynamic}) ` : '';
  return `${before}${slurred && before && !/[,-]$/.test(before) ? ' -' : ''} ${loudness}${written}`.trim();
}

/** The loudness that holds at the end of a line; none where nothing is written. */
function dynamicOf(line: string): string {
  return [...line.matchAll(/\((pp|p|mp|mf|f|ff)\)/g)].at(-1)?.[1] ?? '';
}
