/** Numbers into words. */

/** “9 flat”, “in tune”, “4 sharp”: for tables, whose heads name the unit. */
export function centsShort(cents: number | null | undefined): string {
  if (cents === null || cents === undefined) return '–';
  const whole = Math.round(Math.abs(cents));
  if (whole === 0) return 'in tune';
  return `${whole} ${cents < 0 ? 'flat' : 'sharp'}`;
}

/** “9 cents flat”, “in tune”, “4 cents sharp”. */
export function centsInWords(cents: number | null | undefined): string {
  const short = centsShort(cents);
  return /\d/.test(short) ? short.replace(' ', ' cents ') : short;
}

/** Milliseconds as seconds: “0.1 s”, and “0.04 s” where one decimal would say nothing. */
export function msAsSeconds(ms: number): string {
  const seconds = Math.abs(ms) / 1000;
  return `${seconds.toFixed(seconds < 0.095 ? 2 : 1)} s`;
}

export function signed(value: number): string {
  return `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;
}

export function seconds(total: number): string {
  const whole = Math.round(total);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

/** “1 take”, “3 takes”: the form that the language has for so many. `# take` stands for one, `# takes` for more. */
export function counted(count: number, forms: string[], formOf = (many: number) => (many === 1 ? 0 : 1)): string {
  return (forms[formOf(count)] ?? forms[0] ?? '#').replace('#', String(count));
}

/** Minutes of easy playing, one decimal where it is little. */
export function loadMinutes(load: number): string {
  const minutes = load / 60;
  return minutes < 10 ? minutes.toFixed(1).replace(/\.0$/, '') : String(Math.round(minutes));
}
