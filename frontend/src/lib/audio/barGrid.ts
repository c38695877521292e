/** The beats of a take on the audio clock, going on after its end. No sound and no clock of its own. */
export type BarGrid = {
  /** When the count-in's first beat falls, in seconds of the audio clock. */
  first: number;
  beatS: number;
  perBar: number;
  /** Beats before the exercise's own first beat. */
  countIn: number;
};

export const barS = (grid: BarGrid): number => grid.perBar * grid.beatS;

/** When the exercise's own first beat falls. */
export const musicAt = (grid: BarGrid): number => grid.first + grid.countIn * grid.beatS;

/** When the next exercise's own first beat falls: so many bars after this one's, later by whole bars if it could not be `ready`. */
export function nextMusicAt(grid: BarGrid, bars: number, ready: number): number {
  const due = musicAt(grid) + bars * barS(grid);
  return due >= ready ? due : due + barS(grid) * Math.ceil((ready - due) / barS(grid) - 1e-6);
}

/** The next exercise on its own grid, its first beat at that moment. */
export function gridAt(music: number, next: Omit<BarGrid, 'first'>): BarGrid {
  return { ...next, first: music - next.countIn * next.beatS };
}
